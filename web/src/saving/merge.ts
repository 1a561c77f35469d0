import { isRecord, isRows, keyOf, same, type Fields } from './json'
import { placeIn } from './places'
import { groupsOf, isWhole, only } from './together'

export type Side = 'mine' | 'theirs'

export interface Merged<T> {
  value: T
  /** Places that both sides changed, each in its own way: "header/name", "blocks/k3x1/button/title". */
  conflicts: string[]
}

/**
 * Brings together two changes of one value (a three-way merge): field by field at any depth, and rows of lists
 * by their keys. Lists without keys, and fields that mean something only together, are changed as a whole.
 * Where both sides changed the same, the preferred one is taken and the place is named. Of two new orders of
 * a list, the preferred side's is taken.
 */
export function merge<T>(base: T, mine: T, theirs: T, prefer: Side = 'mine'): Merged<T> {
  const conflicts: string[] = []

  function meet(base: unknown, mine: unknown, theirs: unknown, path: string[]): unknown {
    if (same(mine, theirs) || same(base, theirs)) return mine
    if (same(base, mine)) return theirs
    if (isRows(base) && isRows(mine) && isRows(theirs)) return meetRows(base, mine, theirs, path)
    if (
      isRecord(base) &&
      isRecord(mine) &&
      isRecord(theirs) &&
      !isWhole(path.at(-1)) &&
      isOneKind(base, mine, theirs)
    )
      return meetFields(base, mine, theirs, path)
    conflicts.push(placeIn(path))
    return prefer === 'mine' ? mine : theirs
  }

  function meetFields(base: Fields, mine: Fields, theirs: Fields, path: string[]) {
    const met: Fields = {}
    for (const fields of groupsOf(base, mine, theirs)) {
      const field = fields[0]!
      const values =
        fields.length > 1
          ? meetGroup(only(base, fields), only(mine, fields), only(theirs, fields), path)
          : { [field]: meet(base[field], mine[field], theirs[field], [...path, field]) }
      for (const [each, value] of Object.entries(values)) if (value !== undefined) met[each] = value
    }
    return met
  }

  function meetGroup(base: Fields, mine: Fields, theirs: Fields, path: string[]) {
    if (same(mine, theirs) || same(base, theirs)) return mine
    if (same(base, mine)) return theirs
    const differing = Object.keys(mine).find((field) => !same(mine[field], theirs[field]))!
    conflicts.push(placeIn([...path, differing]))
    return prefer === 'mine' ? mine : theirs
  }

  function meetRows(base: Fields[], mine: Fields[], theirs: Fields[], path: string[]) {
    const [was, here, there] = [base, mine, theirs].map(
      (rows) => new Map(rows.map((row) => [keyOf(row)!, row])),
    )
    const met = new Map<string, Fields>()
    for (const key of new Set([...here!.keys(), ...there!.keys()])) {
      const row = meet(was!.get(key), here!.get(key), there!.get(key), [...path, key]) as Fields | undefined
      if (row) met.set(key, row)
    }
    const other = prefer === 'mine' ? 'theirs' : 'mine'
    const first = moved(base, prefer === 'mine' ? mine : theirs) ? prefer : other
    return first === 'mine' ? inOrder(mine, theirs, met) : inOrder(theirs, mine, met)
  }

  return { value: meet(base, mine, theirs, []) as T, conflicts }
}

/** Whether values that say of what kind they are say the same: parts of two kinds are not mixed. */
const isOneKind = (...values: Fields[]) => values.every(({ kind }) => kind === values[0]!.kind)

/** Whether rows that stayed stand in another order. */
function moved(base: Fields[], rows: Fields[]) {
  const [before, after] = [base.map(keyOf), rows.map(keyOf)]
  const [known, stayed] = [new Set(before), new Set(after)]
  return !same(
    before.filter((key) => stayed.has(key)),
    after.filter((key) => known.has(key)),
  )
}

/** The met rows in the order of the leading side; what only the other has comes after what it came after there. */
function inOrder(leading: Fields[], other: Fields[], met: Map<string, Fields>): Fields[] {
  const keys = leading.map((row) => keyOf(row)!).filter((key) => met.has(key))
  const placed = new Set(keys)
  let before: string | undefined
  for (const row of other) {
    const key = keyOf(row)!
    if (!met.has(key)) continue
    if (!placed.has(key)) keys.splice(before === undefined ? 0 : keys.indexOf(before) + 1, 0, key)
    before = key
  }
  return keys.map((key) => met.get(key)!)
}
