import type { Fields } from './json'

/** Fields with a value of several parts that mean something only together: two changes of one are not mixed. */
const WHOLE = new Set([
  'picture', 'cover', 'still', 'map', 'poster', 'icon', 'lead', 'gradient', 'when', 'hours', 'to', 'point',
]) // prettier-ignore

/** Fields side by side that mean something only together: an address and the destination found for it. */
const GROUPS = [
  ['address', 'destinationId', 'feedId', 'provider', 'still', 'frame', 'width', 'height', 'media', 'bytes'],
  ['price', 'amount', 'amounts', 'currency'],
  ['until', 'zone'],
  ['point', 'map', 'zoom', 'mapBy'],
]

export const isWhole = (field: string | undefined) => field !== undefined && WHOLE.has(field)

/** The fields of some values, in groups of those that are changed together. */
export function groupsOf(...values: Fields[]): string[][] {
  const fields = new Set(values.flatMap(Object.keys))
  const groups = GROUPS.map((group) => group.filter((field) => fields.delete(field)))
  return [...[...fields].map((field) => [field]), ...groups.filter((group) => group.length > 0)]
}

/** The part of a value in those fields. */
export const only = (value: Fields, fields: string[]): Fields =>
  Object.fromEntries(fields.map((field) => [field, value[field]]))
