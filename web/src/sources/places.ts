import type { Source } from '@/api/client'
import { t } from '@/i18n'

export type PlaceKind = Source['kind']

/** The kinds of place an address is put, in the order in which they are offered. */
export const KINDS: readonly { value: PlaceKind; label: string }[] = [
  { value: 'profile', label: t('sources.profile') },
  { value: 'film', label: t('sources.filmDescription') },
  { value: 'letter', label: t('sources.letter') },
  { value: 'print', label: t('sources.print') },
  { value: 'person', label: t('sources.personToPerson') },
]

export const kindLabel = (kind: PlaceKind) => KINDS.find(({ value }) => value === kind)?.label ?? kind

/** Kinds that have an address of their own on the web. */
export const hasProfile = (kind: PlaceKind) => kind === 'profile' || kind === 'film'

/** How the address gets into a place, step by step. */
export function steps(source: Pick<Source, 'kind' | 'name'>): string[] {
  const check = t('sources.openItOnce')
  switch (source.kind) {
    case 'profile':
      return [
        t('sources.copyTheAddress'),
        t('sources.openYourProfileOnEdit', { name: source.name }),
        t('sources.pasteTheAddress'),
        check,
      ]
    case 'film':
      return [
        t('sources.copyTheAddress'),
        t('sources.openTheFilm', { name: source.name }),
        t('sources.pasteItIntoTheFirst'),
        check,
      ]
    case 'letter':
      return [
        t('sources.copyTheAddress'),
        t('sources.putItBehindALine'),
        t('sources.sendTheLetterToYourself'),
        check,
      ]
    case 'print':
      return [
        t('sources.saveTheCodeSvg'),
        t('sources.printItLargeEnough'),
        t('sources.tryItAtArmsLength'),
        check,
      ]
    case 'person':
      return [t('sources.copyTheAddressOrShow'), t('sources.sendOrShow'), check]
  }
}

/** What visits of a kind of evidence are called. */
export const EVIDENCE: Record<string, { label: string; says: string }> = {
  tag: { label: t('sources.tag'), says: t('sources.theyOpenedTheAddress') },
  campaign: { label: t('common.campaign'), says: t('sources.theAddressNamedItsSource') },
  referrer: { label: t('sources.referrer'), says: t('sources.theBrowserSaidWhichSite') },
  app: { label: t('sources.inAppBrowser'), says: t('sources.theBrowserBelongs') },
  untagged: { label: t('common.untagged'), says: t('sources.nothingSaidWhereTheyCame') },
}

/** What an unlisted source is known by. */
export const UNLISTED: Record<string, string> = {
  campaign: t('sources.namedInUtmSource'),
  network: t('sources.aNetworkNone'),
  host: t('sources.aSiteThatLinksHere'),
  several: t('sources.whichOfYourSources'),
  others: t('sources.beyondTheFiftyThatMost'),
}
