import { describe, expect, it } from 'vitest'
import { changedAt, placeOf, putBack, valueAt } from './places'

const page = (...blocks: object[]) => ({ header: { name: 'Quarrow' }, blocks })
const button = (key: string, address: string, title = key) => ({ key, button: { address, title } })

describe('a place in a value', () => {
  it.each([
    ['blocks/1/button/address', 'blocks/seats/button/address'],
    ['body.document.blocks[1].button.address', 'blocks/seats/button/address'],
    ['header/name', 'header/name'],
    ['', ''],
  ])('is named by keys that stay: %s', (location, place) => {
    expect(placeOf(location, page(button('dates', ''), button('seats', '')))).toBe(place)
  })

  it('is named by numbers where a list has no keys', () => {
    expect(placeOf('windows/0/to', { windows: [{ to: '' }] })).toBe('windows/0/to')
  })

  it('is put back as it was, wherever its row stands by now', () => {
    const base = page(button('dates', 'https://a.example/'), button('seats', ''))
    const now = page(button('seats', ''), button('dates', 'nonsense', 'Openings'))
    const place = changedAt(now, base, 'blocks/dates/button/address')!
    expect(place).toBe('blocks/dates/button/address')
    expect(valueAt(now, place)).toBe('nonsense')
    expect(putBack(now, base, place)).toEqual(
      page(button('seats', ''), button('dates', 'https://a.example/', 'Openings')),
    )
  })

  it('is left out with its row where the row is new', () => {
    const base = page(button('dates', ''))
    const now = page(button('new', 'nonsense'), button('dates', ''))
    expect(changedAt(now, base, 'blocks/new/button/address')).toBe('blocks/new')
    expect(putBack(now, base, 'blocks/new')).toEqual(base)
  })

  it('widens to what differs, when what is named does not', () => {
    const base = { offer: { amount: '', currency: '' }, name: '' }
    expect(changedAt({ offer: { amount: '5', currency: '' }, name: '' }, base, 'offer/currency')).toBe(
      'offer',
    )
    expect(changedAt(base, base, 'offer/currency')).toBeUndefined()
  })
})
