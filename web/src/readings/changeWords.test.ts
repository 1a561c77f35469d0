import { describe, expect, it } from 'vitest'
import { rateChangeWords, shareWords, visitsWords, weeksWords } from './changeWords'

const rate = (taken: number, of: number) => ({
  taken,
  of,
  rate: of ? taken / of : 0,
  interval: { low: 0, high: 1 },
})

describe('the words of a change', () => {
  it('say by what part a count rose or fell, and whether that is more than chance', () => {
    const visits = (share: number, called: boolean, missing = 0, before = 100) => ({
      ...{ before, share, called, missing },
      ...{ close: false, interval: { low: -1, high: 1 } },
    })
    expect(shareWords(visits(0.124, true))).toBe('+12\u00a0%')
    expect(visitsWords(visits(0.124, true), 7)).toContain('Up')
    expect(visitsWords(visits(-0.31, true), 7)).toContain('−31\u00a0%')
    expect(visitsWords(visits(-0.031, false), 7)).toContain('cannot be told')
    expect(visitsWords(visits(2, false, 7), 7)).toContain('when there are 7 more days')
    expect(visitsWords(visits(2, false), 1)).toContain('One day against one day')
    expect(visitsWords(visits(0, false, 0, 0), 7)).toBe('Nothing to compare with.')
  })

  it('say of a rate between how many points it changed', () => {
    const up = {
      before: rate(20, 100),
      ...{ points: { low: 0.021, high: 0.072 }, called: true, mixed: false },
      needs: { points: 0.061, quarter: 0.05, weeks: 6 },
    }
    expect(rateChangeWords(up)).toBe('Up by 2.1 to 7.2 points, from 20\u00a0%.')
    const down = { ...up, points: { low: -0.072, high: -0.021 } }
    expect(rateChangeWords(down)).toBe('Down by 2.1 to 7.2 points, from 20\u00a0%.')
    expect(rateChangeWords({ ...up, mixed: true })).toContain(
      'It fell because more of the visits came from sources',
    )
    expect(rateChangeWords({ ...down, mixed: true })).toContain(
      'Source by source it fell, by 2.1 to 7.2 points',
    )
    expect(rateChangeWords({ ...up, mixed: true, called: false })).toContain('moves it by itself')
  })

  it('say what it would take where no change can be told', () => {
    const same = {
      before: rate(20, 100),
      ...{ points: { low: -0.01, high: 0.07 }, called: false, mixed: false },
      needs: { points: 0.061, quarter: 0.05, weeks: 6 },
    }
    expect(rateChangeWords(same)).toBe(
      'It was 20\u00a0% before. No change can be told: less than about 6 points would not show.',
    )
    expect(rateChangeWords({ ...same, needs: { ...same.needs, points: 0.0123 } })).toContain(
      'about 1.2 points',
    )
    const unlike = { points: 0.6, quarter: 0.05, weeks: 0 }
    expect(rateChangeWords({ ...same, needs: unlike })).not.toContain('points')
    expect(weeksWords(same.needs)).toBe('To see a change of 5 points, compare 6 weeks with 6.')
    expect(weeksWords(unlike)).toBe('')
  })
})
