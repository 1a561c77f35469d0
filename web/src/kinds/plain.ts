/** The choice of a plain address, for kinds that lead to one destination. */
export const PLAIN = {
  label: 'Plain address on the page',
  hint: 'For partners whose terms forbid an address in between. Browsers then tell us of clicks, and some do not: the figure may be low. No campaign tags are added.',
}

/** What is said at a figure that rests on what browsers tell. */
export const MAY_BE_LOW = 'The page carries the plain address: browsers tell us of clicks, and some do not.'
