import type { ListedLink, ShortLink } from '@/api/client'
import { formatsOf, t } from '@/i18n'

export type Words = ShortLink['link']

/** Addresses of this kind stand in the studio without their scheme. */
export const bare = (address: string) => address.replace(/^https?:\/\//, '')

const moment = (at: string, timeZone: string | undefined) =>
  new Intl.DateTimeFormat(formatsOf(), {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
    timeZone,
  }).format(new Date(at))

/** What state a link is in, and until when by the clocks of a zone. */
export function stateWords(
  link: Pick<ShortLink, 'state' | 'changesAt' | 'deleteAt'> & { takenDown?: string },
  zone?: string,
) {
  if (link.takenDown) return t('shelf.takenDown', { because: link.takenDown })
  if (link.deleteAt) return t('shelf.deletedUntil', { at: moment(link.deleteAt, zone) })
  const at = link.changesAt ? moment(link.changesAt, zone) : ''
  switch (link.state) {
    case 'off':
      return t('shelf.switchedOff')
    case 'over':
      return t('shelf.isOver')
    case 'before':
      return t('shelf.fromMoment', { at })
    default:
      return at ? t('shelf.inForceUntil', { at }) : t('shelf.inForce')
  }
}

/** All labels in use, most used first. */
export function labelsOf(links: ListedLink[]) {
  const uses = new Map<string, number>()
  for (const label of links.flatMap(({ link }) => link.labels)) uses.set(label, (uses.get(label) ?? 0) + 1)
  return [...uses.entries()].sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0])).map(([label]) => label)
}

/** Links that bear a label and hold what was searched for in their addresses, names and notes. */
export function matching(links: ListedLink[], label: string | undefined, search: string) {
  const sought = search.trim().toLowerCase()
  return links.filter(({ link, shortAddress, pastAddresses }) => {
    const text = [link.name, link.destination, link.note, shortAddress, ...pastAddresses]
      .join(' ')
      .toLowerCase()
    return (!label || link.labels.includes(label)) && text.includes(sought)
  })
}

/** Where visitors of a link were led, by the key its figures are kept under. */
export const OUTCOMES: Record<string, string> = {
  destination: t('shelf.toTheDestination'),
  fallback: t('shelf.toTheFallback'),
  nowhere: t('shelf.toANoticeItLed'),
}

export const REDIRECTS = [
  { value: 302, label: '302, found', description: t('shelf.itLeadsThereForNow') },
  {
    value: 307,
    label: '307, temporary',
    description: t('shelf.itLeadsThereForNowAndAForm'),
  },
  { value: 301, label: '301, moved', description: t('shelf.itHasMovedForGood') },
  {
    value: 308,
    label: '308, permanent',
    description: t('shelf.itHasMovedForGoodAndAForm'),
  },
] as const
