/** Money is whole numbers of the smallest unit of its currency; here it is written and read as people write it. */

/** How many figures a currency has behind its point (ISO 4217, by CLDR); two for what is no currency. */
export function digitsOf(currency: string) {
  try {
    return (
      new Intl.NumberFormat('en', { style: 'currency', currency }).resolvedOptions().maximumFractionDigits ??
      2
    )
  } catch {
    return 2
  }
}

/** An amount with a point, such as 12.50; a round one without its zeros. */
export function amountText(minor: number, currency: string) {
  const digits = digitsOf(currency)
  const figures = String(minor).padStart(digits + 1, '0')
  const whole = figures.slice(0, figures.length - digits)
  const part = figures.slice(figures.length - digits)
  return /^0*$/.test(part) ? whole : `${whole}.${part}`
}

/** Reads one amount; undefined for what is none. No fraction is ever reckoned with. */
export function readAmount(text: string, currency: string) {
  const digits = digitsOf(currency)
  const [, whole = '', part = ''] = /^(\d{1,7})(?:[.,](\d{1,3}))?$/.exec(text.trim()) ?? []
  if (!whole || part.length > digits) return undefined
  return Number(whole + part.padEnd(digits, '0'))
}

/** Reads amounts with blanks or semicolons between them; undefined where one of them is none. */
export function readAmounts(text: string, currency: string) {
  const read = text
    .split(/[\s;]+/)
    .filter(Boolean)
    .map((each) => readAmount(each, currency))
  return read.some((each) => each === undefined) ? undefined : (read as number[])
}
