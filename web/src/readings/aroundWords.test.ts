import { describe, expect, it } from 'vitest'
import { aroundWords, unchangedWords } from './aroundWords'

const rate = (of: number) => ({ taken: 0, of, rate: 0, interval: { low: 0, high: 1 } })
const around = (low: number, high: number, called = true, weeks = 2, visits = 400) => ({
  weeks,
  before: rate(visits),
  after: rate(visits),
  points: { low, high },
  called,
  mixed: false,
  needs: { points: 0.05, quarter: 0.03, weeks: 0 },
  missing: 0,
})

describe('what came of a change', () => {
  it('is more, less, or no difference that could be told', () => {
    expect(aroundWords(around(0.012, 0.061))).toBe('Pressed more since: by 1.2 to 6.1 points.')
    expect(aroundWords(around(-0.061, -0.012))).toBe('Pressed less since: by 1.2 to 6.1 points.')
    expect(aroundWords(around(-0.01, 0.02, false))).toBe(
      'No difference can be told: less than about 5 points would not show.',
    )
    expect(aroundWords({ ...around(-0.01, 0.02, false), missing: 3 })).toContain(
      'In 3 days there is another week',
    )
    expect(aroundWords({ ...around(0.01, 0.02), mixed: true })).toContain('went the other way')
  })

  it('is not said after less than a week, or of few visits', () => {
    expect(aroundWords(around(0, 0, false, 0))).toContain('no whole week')
    expect(aroundWords({ ...around(0, 0, false, 0), missing: 1 })).toContain('in 1 day')
    expect(aroundWords(around(0.1, 0.2, true, 1, 12))).toContain('Too few')
  })
})

describe('a button that no edition changed', () => {
  const at = (place: number) => ({ at: '2026-11-01T00:00:00Z', edition: place, place, onPage: true })
  const open = { from: '2026-11-02T09:00:00Z', to: '2026-11-03T09:00:00Z' }

  it('is not called unchanged where others moved it, or its times had it come and go', () => {
    expect(unchangedWords({ placements: [at(2)], windows: [] })).toBe(
      'Nothing about it changed in this time.',
    )
    expect(unchangedWords({ placements: [at(2), at(3)], windows: [] })).toContain('Its position did change')
    expect(unchangedWords({ placements: [at(2)], windows: [open] })).toContain('at its set times')
  })
})
