import { describe, expect, it } from 'vitest'
import type { TrialView } from '@/api/client'
import { dayBegins, planWords, variantName, verdictWords } from './trialWords'

const rate = (taken: number, of: number) => ({ taken, of, rate: taken / of, interval: { low: 0, high: 1 } })
const trial = (verdict: 'better' | 'none' | 'notYet' | 'early', best: number, runs = true) =>
  ({
    kind: 'title',
    variants: [{ title: 'See the fire' }],
    arms: [{ rate: rate(10, 100) }, { rate: rate(20, 100), against: { low: 0.012, high: 0.061 } }],
    result: { verdict, best, differences: [] },
    plan: { perArm: 1200, rate: 0.12, fixed: 0.03, findable: 0.041 },
    worth: 0.02,
    chooseAt: '2026-06-15T10:00:00Z',
    runs,
  }) as unknown as TrialView

describe('the words of a trial', () => {
  it('name the hour at which a day begins where the creator is', () => {
    expect(dayBegins('Europe/Berlin', new Date('2026-12-02T09:30:00Z'))).toBe('01:00')
    expect(dayBegins('Europe/Berlin', new Date('2026-07-02T09:30:00Z'))).toBe('02:00')
    expect(dayBegins('America/New_York', new Date('2026-12-02T09:30:00Z'))).toBe('19:00')
  })

  it('name what is tried', () => {
    expect([0, 1].map((at) => variantName(trial('notYet', 0), at))).toEqual(['As it is', '“See the fire”'])
    const places = { kind: 'place', variants: [{ place: 1 }] } as unknown as TrialView
    expect(variantName(places, 1)).toBe('At place 1')
  })

  it('say this one, no difference worth having, or not yet', () => {
    const words = (of: TrialView) => verdictWords(of, 'UTC')
    expect(words(trial('better', 1))).toContain('“See the fire” is pressed more: by 1.2 to 6.1 points')
    expect(words(trial('better', 0))).toContain('As it is, it is pressed more')
    expect(words(trial('none', 0))).toContain('2.0 points')
    expect(words(trial('notYet', 1))).toContain('Not clear yet. You may look')
    const open = (runs: boolean) => {
      const undecided = trial('notYet', 1, runs)
      return {
        ...undecided,
        arms: [undecided.arms[0]!, { ...undecided.arms[1]!, against: { low: -0.031, high: 0.061 } }],
      }
    }
    expect(words(open(true))).toContain(
      'Not clear yet: the other version may be pressed up to 3.1 points less or up to 6.1',
    )
    expect(words(open(false))).toContain(
      'ended without an answer: the other version may be pressed up to 3.1 points less',
    )
  })

  it('suggest no choice before two whole weeks', () => {
    expect(verdictWords(trial('early', 1), 'UTC')).toContain('Wait until Mon 15 Jun')
    expect(verdictWords(trial('early', 0), 'UTC')).toContain(
      'As it is, it is pressed more so far. Wait until Mon 15 Jun',
    )
    expect(verdictWords(trial('early', 1, false), 'UTC')).toContain('too short to choose by')
  })

  it('say beforehand what can be found, and when it is nothing', () => {
    expect(planWords(trial('notYet', 0).plan, 28)).toContain('4.1 points')
    expect(planWords({ perArm: 3, rate: 0.1, fixed: 1, findable: 1 }, 7)).toContain('too few')
  })
})
