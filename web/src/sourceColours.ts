import { t } from '@/i18n'

/**
 * Colours of sources, in the order in which they were added: Okabe and Ito's set
 * for all kinds of colour vision (published 2002),
 * its yellow left out as too pale for lines on paper, and black as it is ink.
 */
const OKABE_ITO = ['#0072B2', '#E69F00', '#009E73', '#CC79A7', '#56B4E9', '#D55E00']
const NEUTRAL = '#8b806c'
const FAINT = '#b3a68f'

export const UNTAGGED = 'untagged'
export const UNLISTED = 'unlisted'

/** The colour of the source at that position; they come round again after six. */
export const sourceColour = (position: number) => OKABE_ITO[position % OKABE_ITO.length] ?? NEUTRAL

/** How much of a source's colour the largest cell has, in per cent: text on it is readable in light and dark. */
const DEEPEST = 45

/** How much of its source's colour a cell has, beside the largest of the table. */
export const tint = (clicks: number, most: number) => `${Math.round((clicks / most) * DEEPEST)}%`

/** One column of figures. */
export interface Lane {
  id: string
  name: string
  colour: string
}

/** The columns of a reading: every source that is in use or has figures, what came from places not on the list, then untagged. */
export function lanes(
  sources: { id: string; name: string; retired: boolean }[],
  hasFigures: (id: string) => boolean,
): Lane[] {
  const called = new Map<string, number>()
  const columns = sources
    .map((source, i) => {
      const nth = (called.get(source.name) ?? 0) + 1
      called.set(source.name, nth)
      // Two of one name are told apart by the order in which they were added.
      return { ...source, name: nth > 1 ? `${source.name} (${nth})` : source.name, colour: sourceColour(i) }
    })
    .filter((source) => !source.retired || hasFigures(source.id))
    .map(({ id, name, colour }) => ({ id, name, colour }))
  if (hasFigures(UNLISTED)) columns.push({ id: UNLISTED, name: t('sourceColours.unlisted'), colour: FAINT })
  return [...columns, { id: UNTAGGED, name: t('common.untagged'), colour: NEUTRAL }]
}
