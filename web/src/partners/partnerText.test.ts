import { describe, expect, it } from 'vitest'
import type { PartnerComparison } from '@/api/client'
import { partnerText } from './partnerText'

const compared = (marked: boolean) =>
  ({
    name: 'Wavecastle',
    from: '2026-06-01',
    to: '2026-06-28',
    tolerance: 0.1,
    lines: [
      {
        subject: 'film',
        title: 'The film',
        days: [
          { date: '2026-06-02', ours: 1240, theirs: 1000, share: -0.19, marked },
          { date: '2026-06-03', ours: 100, theirs: 98, share: -0.02, marked: false },
        ],
      },
    ],
  }) as unknown as PartnerComparison

describe('the text for a partner', () => {
  it('has the days that differ, with both counts, and no others', () => {
    const text = partnerText(compared(true), 'Quarrow Clay')
    expect(text).toContain('2026-06-02, film: we counted 1,240, you 1,000')
    expect(text).toContain('−19')
    expect(text).not.toContain('2026-06-03')
    expect(text).toContain('Quarrow Clay')
  })

  it('says so where nothing differs', () => {
    expect(partnerText(compared(false), 'Quarrow Clay')).toContain('no day')
  })
})
