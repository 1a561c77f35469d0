import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, ref, type EffectScope } from 'vue'
import type { Block } from '@/api/client'
import { useArrangeKeys } from './useArrangeKeys'

const block = (key: string): Block => ({
  key,
  kind: 'button',
  shown: true,
  button: { title: key, address: '' },
})
const blocks = ref([block('a'), block('b'), block('c')])
const did = {
  move: vi.fn(),
  toggle: vi.fn(),
  remove: vi.fn(),
  duplicate: vi.fn(),
  edit: vi.fn(),
  undo: vi.fn(),
  redo: vi.fn(),
}
const focused = vi.fn()
let scope: EffectScope

/** Stands in for the list in the page: whichever row is asked for can be focused. */
const list = ref({
  querySelector: (selector: string) => ({ focus: () => focused(selector.match(/"(.+)"/)?.[1]) }),
} as unknown as HTMLElement)

function keys() {
  scope = effectScope()
  return scope.run(() => useArrangeKeys({ list, blocks, ...did }))!
}

function press(key: string, modifiers: Partial<KeyboardEvent> = {}) {
  const row = {}
  return {
    key,
    target: row,
    currentTarget: row,
    preventDefault: vi.fn(),
    ...modifiers,
  } as unknown as KeyboardEvent
}

beforeEach(() => vi.clearAllMocks())
afterEach(() => scope.stop())

describe('Arrange by keyboard', () => {
  it('moves the selection, and stops at the ends', async () => {
    const { onRowKey } = keys()
    await onRowKey(press('ArrowDown'), 'a')
    await onRowKey(press('ArrowUp'), 'b')
    await onRowKey(press('ArrowUp'), 'a')
    expect(focused.mock.calls).toEqual([['b'], ['a']])
    expect(did.move).not.toHaveBeenCalled()
  })

  it('moves the row with Alt, and stays with it', async () => {
    const { onRowKey } = keys()
    await onRowKey(press('ArrowDown', { altKey: true }), 'b')
    expect(did.move).toHaveBeenCalledWith('b', 2)
    expect(focused).toHaveBeenCalledWith('b')
  })

  it('opens, hides and deletes, and goes on beside what is gone', async () => {
    const { onRowKey } = keys()
    await onRowKey(press('Enter'), 'b')
    await onRowKey(press('h'), 'b')
    await onRowKey(press('Delete'), 'c')
    expect([did.edit.mock.calls, did.toggle.mock.calls, did.remove.mock.calls]).toEqual([
      [['b']],
      [['b']],
      [['c']],
    ])
    expect(focused).toHaveBeenCalledWith('b')
  })

  it('leaves keys alone that are typed into a field or meant for the browser', async () => {
    const { onRowKey } = keys()
    await onRowKey(press('h', { target: {} as EventTarget }), 'a')
    await onRowKey(press('h', { ctrlKey: true }), 'a')
    expect(did.toggle).not.toHaveBeenCalled()
  })

  it('gives Tab one row to stop at: the current one, or the first', () => {
    const { isTabStop, focusRow } = keys()
    const stops = () => blocks.value.map((each, i) => isTabStop(each.key, i))
    expect(stops()).toEqual([true, false, false])
    focusRow('c')
    expect(stops()).toEqual([false, false, true])
    focusRow('gone')
    expect(stops()).toEqual([true, false, false])
  })
})
