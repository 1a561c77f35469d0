/** Numbers that look random and are the same for the same seed (mulberry32, public domain). */
export function randomFrom(seed: number) {
  let state = seed >>> 0
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0
    let mixed = Math.imul(state ^ (state >>> 15), state | 1)
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61)
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296
  }
  return {
    /** A whole number from 0 up to, but not including, a bound. */
    below: (bound: number) => Math.floor(next() * bound),
    /** True so often. */
    chance: (share: number) => next() < share,
    /** One of several. */
    pick: <T>(from: readonly T[]): T => from[Math.floor(next() * from.length)]!,
  }
}

export type Random = ReturnType<typeof randomFrom>
