import { expect, it } from 'vitest'
import { readColour } from './readColour'

it.each([
  ['#1F5C4A', '#1f5c4a'], ['1f5c4a', '#1f5c4a'], [' #abc ', '#aabbcc'], ['ABC', '#aabbcc'], ['# 1f5c4a', '#1f5c4a'],
  ['rgb(31, 92, 74)', '#1f5c4a'], ['RGB(31 92 74)', '#1f5c4a'], ['rgb(0,0,255)', '#0000ff'],
  ['rgb(300, 0, 0)', undefined], ['red', undefined], ['#12345', undefined], ['', undefined], ['url(x)', undefined],
])('%s is read as the colour %s', (text, colour) => {
  expect(readColour(text)).toBe(colour)
}) // prettier-ignore
