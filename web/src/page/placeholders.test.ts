import { describe, expect, it } from 'vitest'
import type { Document } from '@/api/client'
import { placeholdersOf } from './placeholders'

const to = (path: string) => `https://your-site.example/${path}`
const button = (key: string, address: string, shown = true) => ({
  key,
  kind: 'button',
  shown,
  button: { title: key, address },
})
const made = {
  icons: { items: [{ key: 'loft', name: 'Photoloft', address: 'https://photoloft.example/quarrow' }] },
  blocks: [
    button('dates', to('dates')),
    button('shops', 'https://quarrow.example/stockists'),
    button('film', to('film'), false),
    { key: 'mail', kind: 'contact', shown: true, contact: { title: 'Write', way: 'mail', mailbox: 'me@your-site.example' } },
  ],
  footer: { links: [{ key: 'privacy', title: 'Privacy', address: to('privacy') }] },
} as unknown as Document // prettier-ignore

describe('addresses of a ready-made page', () => {
  it('are found where visitors would press them', () => {
    expect(placeholdersOf(made).map(({ row, name }) => [row, name])).toEqual([
      ['dates', '“dates”'],
      ['mail', '“Write”'],
      ['footer', 'the link “Privacy” at the end'],
    ])
  })

  it('are left out: blocks hidden, small links taken away', () => {
    const draft = structuredClone(made)
    placeholdersOf(draft).forEach(({ leave }) => leave(draft))
    expect(draft.blocks.map(({ shown }) => shown)).toEqual([false, true, false, false])
    expect(draft.footer.links).toEqual([])
    expect(placeholdersOf(draft)).toEqual([])
  })
})
