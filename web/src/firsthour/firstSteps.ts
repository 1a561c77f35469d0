import type { Document } from '@/api/client'
import { placeholdersOf } from '@/page/placeholders'

/** What comes first on a new page, in this order: who it is of, its own addresses, publishing, a first address to hand out, opening it. */
export type FirstStep = 'name' | 'addresses' | 'publish' | 'source' | 'visit'

interface Sign {
  document: Document
  liveEdition: number
  /** The page’s sources in use; seenAt is absent before a first counted visit. */
  sources: { seenAt?: string }[]
}

const leadsSomewhere = ({ blocks }: Document) =>
  blocks.some(({ shown, button, contact, offer, file, pictures }) => {
    const leads = button?.address || offer?.address || contact || file?.media
    return shown && !!(leads || pictures?.items.some(({ address }) => address))
  })

/** The steps that are done. */
export function doneOf({ document, liveEdition, sources }: Sign): Set<FirstStep> {
  const done: Record<FirstStep, boolean> = {
    name: !!document.header.name.trim() && !!document.header.picture,
    addresses: leadsSomewhere(document) && placeholdersOf(document).length === 0,
    publish: liveEdition > 0,
    source: sources.length > 0,
    visit: sources.some(({ seenAt }) => seenAt),
  }
  return new Set(FIRST_STEPS.filter((step) => done[step]))
}

export const FIRST_STEPS: readonly FirstStep[] = ['name', 'addresses', 'publish', 'source', 'visit']

/** What comes next; nothing once a visit from a source was seen, whatever else was left out. */
export const nextOf = (done: Set<FirstStep>) =>
  done.has('visit') ? undefined : FIRST_STEPS.find((step) => !done.has(step))
