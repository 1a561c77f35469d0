import { describe, expect, it } from 'vitest'
import type { Document } from '@/api/client'
import { conflictWords } from './conflictWords'

const page = (title: string, line: string, name = 'Quarrow Clay') =>
  ({
    header: { name, line: '' },
    blocks: [
      { key: 'k1', kind: 'button', shown: true, button: { title, line, address: 'https://a.example' } },
    ],
  }) as unknown as Document

describe('what somebody reads who has to choose', () => {
  it('names the row and the field, and what is on either side', () => {
    const words = conflictWords(
      ['blocks/k1/button/line', 'header/name'],
      page('Shop', 'Mugs'),
      page('Shop', 'Bowls', 'Quarrow'),
      page('Shop', '', 'River Kiln'),
    )
    expect(words).toEqual([
      { name: '“Shop”, second line', mine: '“Bowls”', theirs: 'emptied' },
      { name: 'Top of the page, name', mine: '“Quarrow”', theirs: '“River Kiln”' },
    ])
  })

  it('calls the row by the title that it has by now, whoever changed it', () => {
    const places = ['blocks/k1/button/line']
    const [was, shop, store] = [page('Shop', 'Mugs'), page('Shop', 'Bowls'), page('Store', 'Jugs')]
    expect(conflictWords(places, was, shop, store)[0]?.name).toBe('“Store”, second line')
    expect(conflictWords(places, was, store, shop)[0]?.name).toBe('“Store”, second line')
  })

  it('says so where one side deleted the row', () => {
    const deleted = { ...page('', ''), blocks: [] } as unknown as Document
    expect(conflictWords(['blocks/k1'], page('Shop', 'Mugs'), deleted, page('Store', 'Mugs'))).toEqual([
      { name: '“Shop”', mine: 'deleted', theirs: '“Store”' },
    ])
  })
})
