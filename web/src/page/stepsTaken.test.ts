import { describe, expect, it } from 'vitest'
import type { Document } from '@/api/client'
import { StepsTaken, type Taken } from './stepsTaken'

const page = (name: string) => ({ header: { name, line: '' }, blocks: [] }) as unknown as Document
const step = (key: string, way: Taken['way'] = 'done', before = page('')) => ({ key, name: key, way, before })

describe('the steps told with a save', () => {
  it('are those since the last that arrived, each but the first with how it began', () => {
    const taken = new StepsTaken()
    taken.add(step('a'))
    taken.add(step('a'))
    taken.add(step('b', 'undone', page('before b')))
    const first = taken.tell()
    expect(first.steps).toEqual([
      { key: 'a', name: 'a', way: 'done' },
      { key: 'b', name: 'b', way: 'undone', before: page('before b') },
    ])
    taken.add(step('c'))
    first.told()
    expect(taken.tell().steps.map(({ key }) => key)).toEqual(['c'])
  })

  it('are told again where the save did not arrive, and typing goes on as the same step', () => {
    const taken = new StepsTaken()
    taken.add(step('title'))
    taken.tell()
    taken.add(step('title', 'done', page('while it was sent')))
    expect(taken.tell().steps.map(({ key }) => key)).toEqual(['title', 'title'])
    taken.tell().told()
    expect(taken.none).toBe(true)
  })

  it('do not fill a bad line: what is too large is left out', () => {
    const taken = new StepsTaken()
    for (const key of ['a', 'b', 'c']) taken.add(step(key, 'done', page('x'.repeat(60_000))))
    const { steps } = taken.tell()
    expect(steps.map(({ before }) => before !== undefined)).toEqual([false, true, false])
  })

  it('take in what was changed elsewhere', () => {
    const taken = new StepsTaken()
    taken.add(step('a'))
    taken.add(step('b'))
    taken.meet(() => page('elsewhere'))
    expect(taken.tell().steps[1]?.before).toEqual(page('elsewhere'))
  })
})
