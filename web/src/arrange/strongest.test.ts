import { describe, expect, it } from 'vitest'
import type { ReadingsView } from '@/api/client'
import { UNTAGGED, type Lane } from '@/sourceColours'
import { strongestButton } from './strongest'

const lanes = ['Photoloft', 'Reelpond', 'Pinmoss', 'Letter', UNTAGGED].map(
  (name) => ({ id: name, name }) as Lane,
)

/** A reading in which one button had so many clicks from each place. */
const view = (clicks: Record<string, number>) =>
  ({
    titles: [{ block: 'dates', title: 'Kiln dates' }],
    blocks: [
      { block: 'other', total: { clicks: 1 }, bySource: {} },
      {
        block: 'dates',
        total: { clicks: Object.values(clicks).reduce((sum, each) => sum + each, 0) },
        bySource: Object.fromEntries(Object.entries(clicks).map(([id, n]) => [id, { clicks: n }])),
      },
    ],
  }) as unknown as ReadingsView

describe('the button that was pressed most', () => {
  it.each([
    [{ Photoloft: 30, Reelpond: 10 }, 'mostly from Photoloft'],
    [{ Photoloft: 20, Reelpond: 20 }, '20 from Photoloft, 20 from Reelpond'],
    [{ Photoloft: 1, Reelpond: 1, Pinmoss: 1, Letter: 1 }, '1 from Photoloft, 1 from Reelpond, 1 from Pinmoss, 1 other'],
    [{ Photoloft: 4 }, '4 from Photoloft'],
    [{ [UNTAGGED]: 30, Photoloft: 2 }, '30 untagged, 2 from Photoloft'],
  ])('with clicks of %o has them %s', (clicks, from) => {
    expect(strongestButton(view(clicks), lanes)).toMatchObject({ title: 'Kiln dates', from })
  }) // prettier-ignore

  it('is none while nothing was pressed', () => {
    expect(strongestButton({ titles: [], blocks: [] } as unknown as ReadingsView, lanes)).toBeUndefined()
  })
})
