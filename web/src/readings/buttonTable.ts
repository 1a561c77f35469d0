import type { ReadingsView } from '@/api/client'
import { t } from '@/i18n'

export type Shows = 'counts' | 'rate' | 'row' | 'column'
export type Sort = 'place' | 'clicks' | 'rate'
type Figures = ReadingsView['blocks'][number]
type Cell = Figures['bySource'][string]
export type Mark = ReadingsView['association']['marks'][number]

export interface TableRow {
  block: string
  title: string
  place: number
  plain?: boolean
  items: { item: string; title: string }[]
  figures?: Figures
}

/** The several things to press on a block that were pressed or are there, as they are called now. */
export function itemsOf({ items, figures }: TableRow) {
  const pressed = new Map((figures?.items ?? []).map((item) => [item.item, item]))
  const none: Omit<Figures['items'][number], 'item'> = {
    clicks: 0,
    rate: { taken: 0, of: 0, rate: 0, interval: { low: 0, high: 1 } },
    bySource: {},
  }
  const there = items.map((item) => ({ ...none, ...pressed.get(item.item), ...item }))
  const known = new Set(items.map(({ item }) => item))
  const gone = [...pressed.values()].filter(({ item }) => !known.has(item))
  return [...there, ...gone.map((item) => ({ ...item, title: t('readings.itemGone') }))]
}

/** The rows of the table: in the order of the page, or the strongest first. */
export function tableRows(view: ReadingsView, sort: Sort): TableRow[] {
  const figures = new Map(view.blocks.map((row) => [row.block, row]))
  const rows: TableRow[] = view.titles.map((title) => ({ ...title, figures: figures.get(title.block) }))
  const by = ({ figures: of }: TableRow) => (sort === 'clicks' ? of?.total.clicks : of?.total.rate.rate) ?? -1
  // What stands at the same height stays in the order of the page.
  return sort === 'place' ? rows : rows.sort((a, b) => by(b) - by(a))
}

/** The clicks of all buttons from each source: what a share of a column is a share of. */
export function columnClicks(view: ReadingsView): Map<string, number> {
  const sums = new Map<string, number>()
  for (const { bySource } of view.blocks)
    for (const [source, { clicks }] of Object.entries(bySource))
      sums.set(source, (sums.get(source) ?? 0) + clicks)
  return sums
}

/** What a cell shows as a share; undefined where it is a share of nothing. */
export function shareOf(
  shows: Exclude<Shows, 'counts'>,
  cell: Cell,
  row: Figures,
  column: number,
): number | undefined {
  const of = { rate: cell.rate.of, row: row.total.clicks, column }[shows]
  if (!of) return undefined
  return shows === 'rate' ? cell.rate.rate : cell.clicks / of
}

/** The cells that stand out, by button and source. */
export const marksOf = (view: ReadingsView) =>
  new Map(view.association.marks.map((mark) => [`${mark.block} ${mark.source}`, mark]))
