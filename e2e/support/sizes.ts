/** The two sizes at which a creator works: a small laptop and a phone. */
export const SIZES = [
  { name: 'at 1280 px', options: { viewport: { width: 1280, height: 800 } }, phone: false },
  { name: 'at 390 px', options: { viewport: { width: 390, height: 844 }, hasTouch: true }, phone: true },
]

/** A visitor's phone; most visitors have one. */
export const PHONE = SIZES[1]!.options
