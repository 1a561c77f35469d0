/** Whether two values are the same as JSON: a field that is undefined is one that is not there. */
export function same(a: unknown, b: unknown): boolean {
  if (a === b) return true
  if (Array.isArray(a) || Array.isArray(b)) {
    return (
      Array.isArray(a) && Array.isArray(b) && a.length === b.length && a.every((each, i) => same(each, b[i]))
    )
  }
  if (!isRecord(a) || !isRecord(b)) return false
  return [...new Set([...Object.keys(a), ...Object.keys(b)])].every((field) => same(a[field], b[field]))
}

/** A copy that shares nothing with the value, and holds no proxy of it. */
export const copyJson = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T

export type Fields = Record<string, unknown>

export const isRecord = (value: unknown): value is Fields =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

/**
 * What a row of a list is known by wherever it stands: its key, or the language that it is the translation
 * into. Undefined for what is no such row.
 */
export function keyOf(value: unknown): string | undefined {
  const key = isRecord(value) ? (value.key ?? value.language) : undefined
  return typeof key === 'string' ? key : undefined
}

export const isRows = (value: unknown): value is Fields[] =>
  Array.isArray(value) && value.every((each) => keyOf(each) !== undefined)
