import type { Block } from '@/api/client'

/** The kinds of block: the fields of Block of which one is set. */
export type Kind = Exclude<keyof Block, 'key' | 'kind' | 'shown' | 'style'>

/** Where a block's title stands, in whichever kind has one. */
const TITLES = ['title', 'name', 'text', 'words'] as const

type Content = Partial<Record<(typeof TITLES)[number], string>>

function contentOf(block: Block) {
  return block[block.kind as Kind] as Content | undefined
}

/** A file's name is what it is saved as; its title comes before it. */
function titleField(block: Block) {
  const content = contentOf(block)
  return TITLES.find((field) => content?.[field] !== undefined)
}

/** What a block is called in lists and messages. */
export function titleOf(block: Block | undefined): string {
  if (!block) return ''
  const field = titleField(block)
  const title = field && contentOf(block)?.[field]
  if (title?.trim()) return title
  if (block.text)
    return (
      block.text.html
        .replace(/<[^>]*>/g, ' ')
        .trim()
        .slice(0, 40) || 'text'
    )
  return (
    block.pictures?.items.find((item) => item.alt)?.alt ??
    block.questions?.items[0]?.asked ??
    block.dates?.items[0]?.what ??
    block.kind
  )
}

/** Whether the title can be changed where it stands, on one line. */
export function canRename(block: Block) {
  const field = titleField(block)
  return field !== undefined && field !== 'words'
}

/** Changes the title of a block in place. */
export function rename(block: Block, title: string) {
  const field = titleField(block)
  const content = contentOf(block)
  if (field && content) content[field] = title
}
