import type { Block } from '@/api/client'

/** The kinds of block: the fields of Block of which one is set. */
export type Kind = Exclude<keyof Block, 'key' | 'kind' | 'shown' | 'style'>

/** The field a block's title stands in, for kinds that have one. */
const TITLES: Partial<Record<Kind, string>> = {
  button: 'title', contact: 'title', file: 'title', heading: 'text', offer: 'name', quote: 'words',
} // prettier-ignore

type Content = Record<string, unknown>

function contentOf(block: Block) {
  return block[block.kind as Kind] as Content | undefined
}

/** What a block is called in lists and messages. */
export function titleOf(block: Block | undefined): string {
  if (!block) return ''
  const field = TITLES[block.kind as Kind]
  const text = field && contentOf(block)?.[field]
  if (typeof text === 'string' && text.trim()) return text
  if (block.text) return block.text.html.replace(/<[^>]*>/g, ' ').trim().slice(0, 40) || 'text' // prettier-ignore
  return block.pictures?.items.find((item) => item.alt)?.alt ?? block.kind
}

/** Whether the title can be changed where it stands. */
export const canRename = (block: Block) => TITLES[block.kind as Kind] !== undefined && block.kind !== 'quote'

/** Changes the title of a block in place. */
export function rename(block: Block, title: string) {
  const field = TITLES[block.kind as Kind]
  const content = contentOf(block)
  if (field && content) content[field] = title
}
