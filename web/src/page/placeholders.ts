import type { Document } from '@/api/client'
import { t } from '@/i18n'
import { titleOf } from './blockWords'

/** The host that stands in ready-made pages for whatever the creator's own will be. */
const PLACEHOLDER = /\byour-site\.example\b/

/** Something visitors would be led to a place that is nobody's. */
export interface Placeholder {
  /** The row whose editor has it: a block's key, "icons" or "footer". */
  row: string
  name: string
  /** What is hidden or taken out with it. */
  leave: (draft: Document) => void
}

/** What visitors can press that still leads to the address of a ready-made page. */
export function placeholdersOf({ blocks, icons, footer }: Document): Placeholder[] {
  const led = (thing: unknown) => PLACEHOLDER.test(JSON.stringify(thing))
  return [
    ...icons.items.filter(led).map((icon) => ({
      row: 'icons',
      name: t('page.theIconFor', { name: icon.name }),
      leave: (draft: Document) => {
        draft.icons.items = draft.icons.items.filter(({ key }) => key !== icon.key)
      },
    })),
    ...blocks
      .filter((block) => block.shown && led(block))
      .map((block) => ({
        row: block.key,
        name: `“${titleOf(block)}”`,
        leave: (draft: Document) => {
          const left = draft.blocks.find(({ key }) => key === block.key)
          if (left) left.shown = false
        },
      })),
    ...footer.links.filter(led).map((link) => ({
      row: 'footer',
      name: t('page.theLinkAtTheEnd', { title: link.title }),
      leave: (draft: Document) => {
        draft.footer.links = draft.footer.links.filter(({ key }) => key !== link.key)
      },
    })),
  ]
}
