const LETTERS = 'abcdefghijklmnopqrstuvwxyz234567'

/** A key by which a block or an item of one is known for good: 40 random bits. */
export function newKey() {
  return Array.from(crypto.getRandomValues(new Uint8Array(8)), (byte) => LETTERS[byte % 32]).join('')
}
