// @vitest-environment happy-dom
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { loadFonts, pageStyleSheet } from './pageStyleSheet'

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

describe('the style sheet of a page', () => {
  it('is made once for the same text, however many pieces adopt it', () => {
    expect(pageStyleSheet('.page{color:red}')).toBe(pageStyleSheet('.page{color:red}'))
    expect(pageStyleSheet('.page{color:red}')).not.toBe(pageStyleSheet('.page{color:blue}'))
  })

  it('does not keep every look that was ever tried', () => {
    const first = pageStyleSheet('.first{}')
    for (let i = 0; i < 60; i++) pageStyleSheet(`.look-${i}{}`)
    expect(pageStyleSheet('.first{}')).not.toBe(first)
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
