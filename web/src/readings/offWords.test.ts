import { describe, expect, it } from 'vitest'
import type { Off } from '@/api/client'
import { offWords } from './offWords'

const off = (more: Partial<Off>): Off => ({
  kind: 'silent',
  title: 'The film',
  since: '2026-11-24',
  days: 3,
  came: 0,
  expected: 21.6,
  failed: false,
  ...more,
})

describe('what is off', () => {
  it('is one sentence with its likely reason', () => {
    const film = off({ block: 'film', failed: true, status: 404 })
    expect(offWords(film)).toBe(
      'Since Tue 24 Nov “The film” was pressed 0 times, where about 22 would be usual. Its address answered 404 when it was last asked.',
    )
    expect(offWords(off({ block: 'film', failed: true }))).toContain('did not answer')
    expect(offWords(off({ source: 'x', title: 'Photoloft' }))).toContain(
      'may have been taken out of the profile',
    )
  })

  it('says of a spike where it came from', () => {
    expect(offWords(off({ kind: 'spike', block: 'film', came: 90, from: 'Reelpond' }))).toContain(
      'Most of it came from Reelpond',
    )
    expect(offWords(off({ kind: 'spike', source: 'x', title: 'Reelpond', came: 90 }))).toContain('90 visits')
  })

  it('is nothing on a quiet page', () => {
    expect(offWords({ days: 0, came: 0, expected: 0, failed: false })).toBe('')
  })
})
