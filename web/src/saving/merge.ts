import { isRecord, isRows, same, type Fields, type Row } from './json'

export type Side = 'mine' | 'theirs'

export interface Merged<T> {
  value: T
  /** Places that both sides changed, each in its own way: "header/name", "blocks/k3x1". */
  conflicts: string[]
}

/** Fields of a value and of its parts are apart; what lies deeper is changed as a whole. */
const DEPTH = 2

/**
 * Brings together two changes of one value (a three-way merge). Fields are merged one by one, and rows of
 * lists by their keys; a row is changed as a whole. Where both sides changed the same, the preferred one is
 * taken and the place is named. Of two new orders of a list, the preferred side's is taken.
 */
export function merge<T>(base: T, mine: T, theirs: T, prefer: Side = 'mine'): Merged<T> {
  const conflicts: string[] = []

  function meet(base: unknown, mine: unknown, theirs: unknown, path: string[], depth: number): unknown {
    if (same(mine, theirs) || same(base, theirs)) return mine
    if (same(base, mine)) return theirs
    if (depth > 0 && isRows(base) && isRows(mine) && isRows(theirs)) return meetRows(base, mine, theirs, path)
    if (depth > 0 && isRecord(base) && isRecord(mine) && isRecord(theirs))
      return meetFields(base, mine, theirs, path, depth)
    conflicts.push(path.join('/'))
    return prefer === 'mine' ? mine : theirs
  }

  function meetFields(base: Fields, mine: Fields, theirs: Fields, path: string[], depth: number) {
    const met: Fields = {}
    for (const field of new Set([...Object.keys(mine), ...Object.keys(theirs)])) {
      const value = meet(base[field], mine[field], theirs[field], [...path, field], depth - 1)
      if (value !== undefined) met[field] = value
    }
    return met
  }

  function meetRows(base: Row[], mine: Row[], theirs: Row[], path: string[]) {
    const [was, here, there] = [base, mine, theirs].map((rows) => new Map(rows.map((row) => [row.key, row])))
    const met = new Map<string, Row>()
    for (const key of new Set([...here!.keys(), ...there!.keys()])) {
      const row = meet(was!.get(key), here!.get(key), there!.get(key), [...path, key], 0) as Row | undefined
      if (row) met.set(key, row)
    }
    const first = moved(base, prefer === 'mine' ? mine : theirs)
      ? prefer
      : prefer === 'mine'
        ? 'theirs'
        : 'mine'
    const [leading, other] = first === 'mine' ? [mine, theirs] : [theirs, mine]
    return inOrder(leading, other, met)
  }

  return { value: meet(base, mine, theirs, [], DEPTH) as T, conflicts }
}

/** Whether rows that stayed stand in another order. */
function moved(base: Row[], rows: Row[]) {
  const stayed = new Set(rows.map(({ key }) => key))
  const known = new Set(base.map(({ key }) => key))
  const before = base.map(({ key }) => key).filter((key) => stayed.has(key))
  const after = rows.map(({ key }) => key).filter((key) => known.has(key))
  return !same(before, after)
}

/** The met rows in the order of the leading side; what only the other has comes after what it came after there. */
function inOrder(leading: Row[], other: Row[], met: Map<string, Row>): Row[] {
  const keys = leading.map(({ key }) => key).filter((key) => met.has(key))
  const placed = new Set(keys)
  let before: string | undefined
  for (const { key } of other) {
    if (!met.has(key)) continue
    if (!placed.has(key)) keys.splice(before === undefined ? 0 : keys.indexOf(before) + 1, 0, key)
    before = key
  }
  return keys.map((key) => met.get(key)!)
}
