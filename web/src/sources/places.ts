import type { Source } from '@/api/client'

export type PlaceKind = Source['kind']

/** The kinds of place an address is put, in the order in which they are offered. */
export const KINDS: readonly { value: PlaceKind; label: string }[] = [
  { value: 'profile', label: 'Profile' },
  { value: 'film', label: 'Film description' },
  { value: 'letter', label: 'Letter' },
  { value: 'print', label: 'Print' },
  { value: 'person', label: 'Person to person' },
]

export const kindLabel = (kind: PlaceKind) => KINDS.find(({ value }) => value === kind)?.label ?? kind

/** Kinds that have an address of their own on the web. */
export const hasProfile = (kind: PlaceKind) => kind === 'profile' || kind === 'film'

/** How the address gets into a place, step by step. */
export function steps(source: Pick<Source, 'kind' | 'name'>): string[] {
  const check = 'Open it once on your phone. Its first visit shows up here by itself.'
  switch (source.kind) {
    case 'profile':
      return [
        'Copy the address.',
        `Open your profile on ${source.name}, edit it, and find the field for a website or link.`,
        'Paste the address over what is there, and save.',
        check,
      ]
    case 'film':
      return [
        'Copy the address.',
        `Open the film on ${source.name} and edit its description.`,
        'Paste it into the first line, which is seen without unfolding the rest, and save.',
        check,
      ]
    case 'letter':
      return [
        'Copy the address.',
        'Put it behind a line at the foot of the letter’s template, so that each letter carries it.',
        'Send the letter to yourself first.',
        check,
      ]
    case 'print':
      return [
        'Save the code: SVG for a printer’s shop, PNG for a document.',
        'Print it at least 2 cm wide, with its clear border, and the address under it.',
        'Try it at arm’s length before the whole lot is printed.',
        check,
      ]
    case 'person':
      return ['Copy the address, or show the code on your phone.', 'Send or show it to the person.', check]
  }
}

/** What visits of a kind of evidence are called. */
export const EVIDENCE: Record<string, { label: string; says: string }> = {
  tag: { label: 'Tag', says: 'They opened the address you made for the source.' },
  campaign: { label: 'Campaign', says: 'The address named its source in utm_source.' },
  referrer: { label: 'Referrer', says: 'The browser said which site it came from.' },
  app: { label: 'In-app browser', says: 'The browser belongs to a network’s app.' },
  untagged: { label: 'Untagged', says: 'Nothing said where they came from.' },
}

/** What an unlisted source is known by. */
export const UNLISTED: Record<string, string> = {
  campaign: 'named in utm_source',
  network: 'a network none of your sources is on',
  host: 'a site that links here',
  several: 'which of your sources on it, nobody knows',
  others: 'beyond the fifty that most visits come from',
}
