import { describe, expect, it } from 'vitest'
import { amountText, digitsOf, readAmount, readAmounts } from './amounts'

describe('amounts of money', () => {
  it('have as many figures behind the point as ISO 4217 gives their currency', () => {
    expect(['EUR', 'JPY', 'KWD', 'XX'].map(digitsOf)).toEqual([2, 0, 3, 2])
  })

  it('are written and read as the same', () => {
    for (const [minor, currency, text] of [
      [500, 'EUR', '5'],
      [1250, 'EUR', '12.50'],
      [5, 'EUR', '0.05'],
      [500, 'JPY', '500'],
      [1500, 'KWD', '1.500'],
    ] as const) {
      // prettier-ignore
      expect(amountText(minor, currency)).toBe(text)
      expect(readAmount(text, currency)).toBe(minor)
    }
  })

  it('are read with a comma, and several at once', () => {
    expect(readAmount('12,5', 'EUR')).toBe(1250)
    expect(readAmounts(' 3  5;12.50 ', 'EUR')).toEqual([300, 500, 1250])
    expect(readAmounts('', 'EUR')).toEqual([])
  })

  it('are none with more figures than there are, or with anything else', () => {
    for (const text of ['5.555', '-5', '5 EUR', 'e5', '1.2.3'])
      expect(readAmounts(text, 'EUR')).toBeUndefined()
    expect(readAmount('5.5', 'JPY')).toBeUndefined()
  })
})
