/**
 * A colour as it is kept, out of what somebody pastes: three or six digits with or without their sign, or
 * rgb() with commas or blanks (CSS Color 4). Undefined where it is none.
 */
export function readColour(text: string): string | undefined {
  const code = text.trim().toLowerCase()
  const digits = /^#?\s*([0-9a-f]{3}|[0-9a-f]{6})$/.exec(code)?.[1]
  if (digits) return `#${digits.length === 3 ? [...digits].map((digit) => digit + digit).join('') : digits}`
  const parts = /^rgb\(\s*(\d{1,3})[\s,]+(\d{1,3})[\s,]+(\d{1,3})\s*\)$/.exec(code)?.slice(1).map(Number)
  if (!parts || parts.some((part) => part > 255)) return undefined
  return `#${parts.map((part) => part.toString(16).padStart(2, '0')).join('')}`
}
