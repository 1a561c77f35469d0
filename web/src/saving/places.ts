import { isRecord, keyOf, same } from './json'

/*
 * A place in a value is named by fields, keys of rows and, in lists without keys, numbers: "header/name",
 * "blocks/k3x1/button/address", "windows/0/to". Unlike the server's numbers, keys stay right when rows move.
 * A slash in a field is written as RFC 6901 writes it: ~1.
 */

/** The place with those fields on the way to it. */
export const placeIn = (fields: string[]) =>
  fields.map((field) => field.replaceAll('~', '~0').replaceAll('/', '~1')).join('/')

/** A place as the server names it, by the keys of the value that was sent. */
export function placeOf(location: string, sent: unknown): string {
  const fields = location.replace(/\[(\d+)\]/g, '.$1').replace(/^body\.\w+\.?/, '').split(/[./]/).filter(Boolean) // prettier-ignore
  let value = sent
  return fields
    .map((field) => {
      const inner = inside(value, field)
      const name = Array.isArray(value) ? (keyOf(inner) ?? field) : field
      value = inner
      return name
    })
    .join('/')
}

/** What stands at a place; undefined where nothing does. */
export const valueAt = (value: unknown, place: string): unknown => fieldsOf(place).reduce(inside, value)

/** The place that one is part of; empty for the whole. */
export const above = (place: string) => place.split('/').slice(0, -1).join('/')

/**
 * The smallest place around one at which a value differs from its base and which can be put back by itself:
 * a row that is new is new as a whole. Undefined when nothing there differs.
 */
export function changedAt(value: unknown, base: unknown, place: string): string | undefined {
  let around = place
  while (around && same(valueAt(value, around), valueAt(base, around))) around = above(around)
  const fields = fieldsOf(around)
  for (let depth = 1; depth <= fields.length; depth++) {
    const part = placeIn(fields.slice(0, depth))
    if (valueAt(base, part) === undefined) return part
  }
  return around || undefined
}

/** A copy of the value with what the base has at a place; a row that the base lacks is left out. */
export function putBack<T>(value: T, base: T, place: string): T {
  return restore(value, base, fieldsOf(place)) as T
}

function restore(value: unknown, base: unknown, [field, ...rest]: string[]): unknown {
  if (field === undefined) return base
  if (Array.isArray(value)) {
    const at = value.findIndex((_, i) => value[i] === inside(value, field))
    const before = inside(base, field)
    const item = before === undefined ? [] : [restore(value[at], before, rest)]
    return value.toSpliced(at, 1, ...item)
  }
  if (!isRecord(value)) return base
  return { ...value, [field]: restore(value[field], inside(base, field), rest) }
}

const fieldsOf = (place: string) =>
  place ? place.split('/').map((field) => field.replaceAll('~1', '/').replaceAll('~0', '~')) : []

function inside(value: unknown, field: string): unknown {
  if (Array.isArray(value)) return value.find((each) => keyOf(each) === field) ?? value[Number(field)]
  return isRecord(value) ? value[field] : undefined
}
