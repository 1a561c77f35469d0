import type { PageSummary } from '@/api/client'
import { formatsOf, t } from '@/i18n'

/** What a page is called: by the name in its header, or by its address. */
export const nameOf = (page: Pick<PageSummary, 'name' | 'address'>) => page.name || page.address

/** How a page stands for its visitors, in words. */
export function standingWords(page: PageSummary) {
  switch (page.state) {
    case 'deleted': return t('pages.deletedUntil', { date: dayWords(page.deleteAt ?? '') })
    case 'draft': return t('pages.draft')
    case 'resting': return t('pages.resting')
    case 'closed': return t('pages.closed')
    case 'solo': return t('pages.solo')
    case 'pass-through': return t('pages.passThrough')
    default: return t('pages.live', { edition: page.liveEdition })
  }
} // prettier-ignore

/** A day like "11 December". */
export const dayWords = (at: string) =>
  new Date(at).toLocaleDateString(formatsOf(), { day: 'numeric', month: 'long' })

/** All labels of pages, each once, in order. */
export const labelsOf = (pages: PageSummary[]) =>
  [...new Set(pages.flatMap(({ labels }) => labels))].sort((a, b) => a.localeCompare(b))
