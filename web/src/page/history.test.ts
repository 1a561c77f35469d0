import { describe, expect, it } from 'vitest'
import { History } from './history'

describe('the undo stack', () => {
  it('goes back and forth and names the step', () => {
    const history = new History<string>()
    history.push('rename', 'a', 'b')
    history.push('move', 'b', 'c')
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
    const keys = [
      history.push('rename', '', 'K', 'title', 0),
      history.push('rename', 'K', 'Ki', 'title', 300),
      history.push('rename', 'Ki', 'Kiln', 'title', 600),
    ]
    expect(new Set(keys).size).toBe(1)
    history.push('rename', 'Kiln', 'Kilns', 'title', 60_000)
    expect([history.undo('Kilns'), history.undo('Kiln'), history.undo('')]).toEqual(['Kiln', '', undefined])
  })

  it('forgets what was undone once something else is done', () => {
    const history = new History<string>()
    history.push('rename', 'a', 'b')
    history.undo('b')
    history.push('hide', 'a', 'c')
    expect(history.redo('c')).toBeUndefined()
  })

  it('keeps the newest steps when there are too many', () => {
    const history = new History<number>(3)
    for (let i = 0; i < 10; i++) history.push(`step ${i}`, i, i + 1)
    expect([history.undo(10), history.undo(9), history.undo(8), history.undo(7)]).toEqual([
      9,
      8,
      7,
      undefined,
    ])
  })

  it('takes back what a step changed, and leaves what was changed elsewhere meanwhile', () => {
    const history = new History<Record<string, string>>()
    history.push('rename', { name: 'a', line: 'x' }, { name: 'b', line: 'x' })
    const undone = history.undo({ name: 'b', line: 'changed elsewhere' })
    expect(undone).toEqual({ name: 'a', line: 'changed elsewhere' })
    expect(history.redo(undone!)).toEqual({ name: 'b', line: 'changed elsewhere' })
  })

  it('takes back a step that is not the last, unless what it changed was changed since', () => {
    const history = new History<Record<string, string>>()
    const key = history.push('move', { a: '1', b: '' }, { a: '', b: '' })
    history.push('rename', { a: '', b: '' }, { a: '', b: 'x' })
    expect(history.pick(key, true, { a: '', b: 'x' })).toEqual({ a: '1', b: 'x' })
    expect(history.undoable).toBe('rename')
    expect(history.find(key, false), 'it can be done again').toBeDefined()
    expect(history.pick(key, false, { a: 'changed', b: 'x' })).toBeUndefined()
    expect(history.pick(key, false, { a: '1', b: 'x' })).toEqual({ a: '', b: 'x' })
  })

  it('takes a change into every step, so that doing it again has it', () => {
    const history = new History<string>()
    history.push('add', 'a', 'ab')
    history.push('rename', 'ab', 'abc')
    history.amend((value) => value.toUpperCase())
    expect([history.undo('ABC'), history.undo('AB'), history.redo('A')]).toEqual(['AB', 'A', 'AB'])
  })

  it('knows steps of earlier and elsewhere by name, and cannot take them before it knows what they changed', () => {
    const history = new History<string>()
    const here = history.push('rename', 'b', 'c')
    history.learn([
      { key: 'earlier', name: 'add', undone: false },
      { key: here, name: 'rename', undone: false },
      { key: 'next', name: 'hide', undone: true },
      { key: 'last', name: 'move', undone: true },
    ])
    expect([history.undoable, history.redoable]).toEqual(['rename', 'hide'])
    expect(history.undo('c')).toBe('b')
    expect(history.undo('b')).toBeUndefined()
    expect(history.undoable).toBe('add')
    history.next(true)!.change = { before: 'a', after: 'b' }
    expect(history.undo('b')).toBe('a')
  })
})
