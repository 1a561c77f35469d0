import type { ReadingsView } from '@/api/client'
import { t } from '@/i18n'
import type { Lane } from '@/sourceColours'

export type Split = 'none' | 'source' | 'button'
export type Unit = 'hour' | 'day' | 'week'

export interface Series {
  name: string
  values: number[]
  colour?: string
}

/** Points on the time axis, each with the days it stands for, and what was there. */
export interface Timeline {
  /** Of each point: a date, or a date and an hour as `YYYY-MM-DD HH`. */
  points: string[]
  series: Series[]
}

/** How many buttons are drawn at once; more lines than this cannot be told apart. */
const MOST_BUTTONS = 6

/** From how many days on weeks are easier to read. */
const MANY_DAYS = 120

/** What a range is read by unless somebody chooses: hours of a day or two, weeks of many months. */
export function unitOf(view: ReadingsView): Unit {
  if (view.hours.length > 0) return 'hour'
  return view.days.length > MANY_DAYS ? 'week' : 'day'
}

/** Where the figures of each point stand. */
interface Points {
  visits: number[]
  ofSource: (source: string) => number[]
  ofButton: (row: ReadingsView['blocks'][number]) => number[]
}

const byDay = ({ days }: ReadingsView): Points => ({
  visits: days.map(({ visits }) => visits),
  ofSource: (source) => days.map((day) => day.visitsBySource[source] ?? 0),
  ofButton: (row) => row.daily,
})

const byHour = ({ hours }: ReadingsView): Points => ({
  visits: hours.map(({ visits }) => visits),
  ofSource: (source) => hours.map((hour) => hour.visitsBySource[source] ?? 0),
  ofButton: ({ block }) => hours.map((hour) => hour.clicksByBlock[block] ?? 0),
})

/** The lines of the chart over time: visits in all or by source, or clicks of the strongest buttons. */
export function timeSeries(view: ReadingsView, lanes: Lane[], split: Split, points = byDay(view)): Series[] {
  if (split === 'source') {
    return lanes.map((lane) => ({
      name: lane.name,
      colour: lane.colour,
      values: points.ofSource(lane.id),
    }))
  }
  if (split === 'button') {
    const titles = new Map(view.titles.map((title) => [title.block, title.title]))
    return [...view.blocks]
      .sort((a, b) => b.total.clicks - a.total.clicks)
      .slice(0, MOST_BUTTONS)
      .map((row) => ({ name: titles.get(row.block) ?? row.block, values: points.ofButton(row) }))
  }
  return [{ name: t('readings.visits'), values: points.visits }]
}

/** The same by hour, day or week. */
export function timeline(view: ReadingsView, lanes: Lane[], split: Split, unit: Unit): Timeline {
  if (unit === 'hour') {
    return {
      points: view.hours.map(({ date, hour }) => `${date} ${String(hour).padStart(2, '0')}`),
      series: timeSeries(view, lanes, split, byHour(view)),
    }
  }
  const days = view.days.map(({ date }) => date)
  const series = timeSeries(view, lanes, split)
  return unit === 'week' ? byWeek(days, series) : { points: days, series }
}

/** Days put together to weeks that begin on Monday, each named by that day. */
export function byWeek(days: string[], series: Series[]): Timeline {
  const points = [...new Set(days.map(mondayOf))]
  const at = new Map(points.map((monday, i) => [monday, i]))
  return {
    points,
    series: series.map((line) => {
      const values = points.map(() => 0)
      line.values.forEach((value, i) => (values[at.get(mondayOf(days[i]!))!]! += value))
      return { ...line, values }
    }),
  }
}

/** The Monday on or before a date. */
export function mondayOf(date: string): string {
  const day = new Date(`${date}T00:00:00Z`)
  day.setUTCDate(day.getUTCDate() - ((day.getUTCDay() + 6) % 7))
  return day.toISOString().slice(0, 10)
}

/** The mean of a day and the six before it; nothing before there are seven. */
export const sevenDayMean = (values: number[]): (number | null)[] =>
  values.map((_, i) => {
    if (i < 6) return null
    const week = values.slice(i - 6, i + 1)
    return Math.round((10 * week.reduce((sum, value) => sum + value, 0)) / 7) / 10
  })
