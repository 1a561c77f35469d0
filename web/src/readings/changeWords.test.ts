import { describe, expect, it } from 'vitest'
import { countWords, rateChangeWords, shareWords } from './changeWords'

const rate = (taken: number, of: number) => ({
  taken,
  of,
  rate: of ? taken / of : 0,
  interval: { low: 0, high: 1 },
})

describe('the words of a change', () => {
  it('say by what part a count rose or fell, and whether that is more than chance', () => {
    expect(shareWords({ before: 100, share: 0.124, called: true, close: false })).toBe('+12\u00a0%')
    expect(countWords({ before: 100, share: 0.124, called: true, close: false })).toContain('Up')
    expect(countWords({ before: 100, share: -0.31, called: true, close: false })).toContain('−31\u00a0%')
    expect(countWords({ before: 100, share: -0.031, called: false, close: false })).toContain('can be chance')
    expect(countWords({ before: 0, share: 0, called: false, close: false })).toBe('Nothing to compare with.')
  })

  it('say of a rate between how many points it changed', () => {
    const up = { before: rate(20, 100), points: { low: 0.021, high: 0.072 }, called: true }
    expect(rateChangeWords(up)).toBe('up by 2.1 to 7.2 points, from 20\u00a0%')
    const down = { ...up, points: { low: -0.072, high: -0.021 } }
    expect(rateChangeWords(down)).toBe('down by 2.1 to 7.2 points, from 20\u00a0%')
    expect(rateChangeWords({ ...up, points: { low: -0.01, high: 0.07 }, called: false })).toContain(
      'no change',
    )
  })
})
