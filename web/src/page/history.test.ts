import { describe, expect, it } from 'vitest'
import { History } from './history'

describe('the undo stack', () => {
  it('goes back and forth and names the step', () => {
    const history = new History<string>()
    history.push('rename', 'a')
    history.push('move', 'b')
    expect(history.undoable).toBe('move')
    expect(history.undo('c')).toBe('b')
    expect(history.redoable).toBe('move')
    expect(history.undo('b')).toBe('a')
    expect(history.undo('a')).toBeUndefined()
    expect(history.redo('a')).toBe('b')
    expect(history.redo('b')).toBe('c')
  })

  it('takes typing as one step until there is a pause or something else is done', () => {
    const history = new History<string>()
    history.push('rename', '', 'title', 0)
    history.push('rename', 'K', 'title', 300)
    history.push('rename', 'Ki', 'title', 600)
    history.push('rename', 'Kiln', 'title', 60_000)
    expect([history.undo('Kilns'), history.undo('Kiln'), history.undo('')]).toEqual(['Kiln', '', undefined])
  })

  it('forgets what was undone once something else is done', () => {
    const history = new History<string>()
    history.push('rename', 'a')
    history.undo('b')
    history.push('hide', 'a')
    expect(history.redo('c')).toBeUndefined()
  })

  it('keeps the newest steps when there are too many', () => {
    const history = new History<number>(3)
    for (let i = 0; i < 10; i++) history.push(`step ${i}`, i)
    expect([history.undo(10), history.undo(9), history.undo(8), history.undo(7)]).toEqual([
      9,
      8,
      7,
      undefined,
    ])
  })

  it('takes a change into every step, so that undoing another does not lose it', () => {
    const history = new History<string>()
    history.push('add', 'a')
    history.push('rename', 'ab')
    history.amend((value) => value.toUpperCase())
    expect([history.undo('ABC'), history.undo('AB')]).toEqual(['AB', 'A'])
  })
})
