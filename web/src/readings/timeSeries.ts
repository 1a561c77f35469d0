import type { ReadingsView } from '@/api/client'
import { t } from '@/i18n'
import type { Lane } from '@/sourceColours'

export type Split = 'none' | 'source' | 'button'

export interface Series {
  name: string
  values: number[]
  colour?: string
}

/** How many buttons are drawn at once; more lines than this cannot be told apart. */
const MOST_BUTTONS = 6

/** The lines of the chart over time: visits in all or by source, or clicks of the strongest buttons. */
export function timeSeries(view: ReadingsView, lanes: Lane[], split: Split): Series[] {
  if (split === 'source') {
    return lanes.map((lane) => ({
      name: lane.name,
      colour: lane.colour,
      values: view.days.map((day) => day.visitsBySource[lane.id] ?? 0),
    }))
  }
  if (split === 'button') {
    const titles = new Map(view.titles.map((title) => [title.block, title.title]))
    return [...view.blocks]
      .sort((a, b) => b.total.clicks - a.total.clicks)
      .slice(0, MOST_BUTTONS)
      .map((row) => ({ name: titles.get(row.block) ?? row.block, values: row.daily }))
  }
  return [{ name: t('readings.visits'), values: view.days.map((day) => day.visits) }]
}
