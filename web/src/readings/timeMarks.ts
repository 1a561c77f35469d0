import type { ReadingsView } from '@/api/client'
import { counted } from '@/figures'
import { t } from '@/i18n'
import { mondayOf, type Unit } from './timeSeries'
import type { TimeMark } from './TimeChart.vue'

/** The point of a chart that a moment falls on, by the clocks of a zone. */
export function pointOf(at: string, unit: Unit, zone: string): string {
  const parts = new Intl.DateTimeFormat('en-CA', {
    timeZone: zone,
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
    hour: '2-digit',
    hourCycle: 'h23',
  }).formatToParts(new Date(at))
  const part = (type: string) => parts.find((each) => each.type === type)?.value ?? ''
  const date = `${part('year')}-${part('month')}-${part('day')}`
  if (unit === 'hour') return `${date} ${part('hour')}`
  return unit === 'week' ? mondayOf(date) : date
}

/** Editions that went live and windows that began or ended, as marks of a chart. */
export function timeMarks(
  view: Pick<ReadingsView, 'editions' | 'windows' | 'titles'>,
  unit: Unit,
  zone: string,
): TimeMark[] {
  const titles = new Map(view.titles.map(({ block, title }) => [block, title]))
  const editions = view.editions.map(({ number, at, changes }) => ({
    at: pointOf(at, unit, zone),
    label: String(number),
    says: t('readings.editionWentLive', { number, changes: counted(changes, 'change') }),
  }))
  const windows = view.windows.map(({ block, at, begins }) => ({
    at: pointOf(at, unit, zone),
    label: begins ? '▸' : '◂',
    dashed: true,
    says: begins
      ? t('readings.windowBegan', { title: titles.get(block) ?? block })
      : t('readings.windowEnded', { title: titles.get(block) ?? block }),
  }))
  return [...editions, ...windows]
}
