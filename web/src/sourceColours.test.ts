import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { lanes, tint } from './sourceColours'

const css = readFileSync(new URL('./theme/studio.css', import.meta.url), 'utf8')
const [light = '', dark = ''] = css.split('.dark {')
const colour = (of: string, name: string) => new RegExp(`--${name}: (#[0-9a-f]{6})`).exec(of)![1]!
const channels = (hex: string) => [1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16))

/** Relative luminance and contrast. Source: WCAG 2.2, the definitions of both. */
function luminance(rgb: number[]) {
  const [r = 0, g = 0, b = 0] = rgb
    .map((value) => value / 255)
    .map((value) => (value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4))
  return 0.2126 * r + 0.7152 * g + 0.0722 * b
}
const contrast = (a: number[], b: number[]) => {
  const [less = 0, more = 0] = [luminance(a), luminance(b)].sort((x, y) => x - y)
  return (more + 0.05) / (less + 0.05)
}

describe('the colours of sources', () => {
  const many = Array.from({ length: 6 }, (_, i) => ({ id: `s${i}`, name: `Source ${i}`, retired: false }))
  const columns = lanes(many, () => true)

  it.each([
    ['light', light],
    ['dark', dark],
  ])('leave the figures on them readable in %s', (_, theme) => {
    const share = parseInt(tint(9, 9)) / 100
    for (const ground of ['surface', 'ground'])
      for (const lane of columns) {
        const under = channels(colour(theme, ground))
        const cell = channels(lane.colour).map((value, i) => value * share + under[i]! * (1 - share))
        expect(contrast(channels(colour(theme, 'ink')), cell), `${lane.name} on ${ground}`).toBeGreaterThan(
          4.5,
        )
      }
  })

  it('tell two of one name apart', () => {
    const twins = ['Card', 'Card', 'Letter'].map((name, i) => ({ id: `s${i}`, name, retired: false }))
    expect(lanes(twins, () => false).map(({ name }) => name)).toEqual([
      'Card',
      'Card (2)',
      'Letter',
      'Untagged',
    ])
  })
})
