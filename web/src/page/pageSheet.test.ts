// @vitest-environment happy-dom
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { loadFonts, pageSheet } from './pageSheet'

const added = vi.fn()
beforeEach(() => {
  added.mockClear()
  vi.stubGlobal(
    'FontFace',
    class {
      constructor(
        readonly family: string,
        readonly source: string,
        readonly descriptors: object,
      ) {}
    },
  )
  Object.defineProperty(document, 'fonts', { value: { add: added }, configurable: true })
})

describe('the sheet of a page', () => {
  it('is made once for the same text, however many pieces adopt it', () => {
    expect(pageSheet('.page{color:red}')).toBe(pageSheet('.page{color:red}'))
    expect(pageSheet('.page{color:red}')).not.toBe(pageSheet('.page{color:blue}'))
  })

  it('does not keep every look that was ever tried', () => {
    const first = pageSheet('.first{}')
    for (let i = 0; i < 60; i++) pageSheet(`.look-${i}{}`)
    expect(pageSheet('.first{}')).not.toBe(first)
  })
})

describe('the fonts of a page', () => {
  it('are loaded into the document once each, for the characters they hold', () => {
    const slice = { family: 'lora', weight: 700, path: '/fonts/lora-700-plain.woff2', range: 'U+20-7E' }
    loadFonts([slice, { ...slice, weight: 400, path: '/fonts/lora-400-plain.woff2' }])
    loadFonts([slice])
    expect(added).toHaveBeenCalledTimes(2)
    expect(added.mock.calls[0]?.[0]).toMatchObject({
      family: 'lora',
      source: 'url(/fonts/lora-700-plain.woff2) format("woff2")',
      descriptors: { weight: '700', unicodeRange: 'U+20-7E' },
    })
  })
})
