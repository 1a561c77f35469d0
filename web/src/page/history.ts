import { merge } from '@/saving/merge'

interface Entry<T> {
  key: string
  name: string
  join?: string
  at: number
  /** What the step made of what; unknown where the server keeps it. */
  change?: Change<T>
  /** The other page that it changed. */
  alsoOn?: string
}

/** A value before something was done to it, and after. */
export interface Change<T> {
  before: T
  after: T
}

/** A step that was done earlier or elsewhere. */
export interface KnownStep {
  key: string
  name: string
  undone: boolean
  alsoOn?: string
}

/** A step that changes two pages: it has the same key on both. */
export interface StepOfTwo {
  key: string
  alsoOn: string
}

/** Changes of one kind that follow each other within this time are one step. */
const JOINED_WITHIN = 2_500

/**
 * Steps that can be undone and done again, each under the name of what was done. Only what a step changed is
 * taken back: what was changed meanwhile by anybody else stays.
 */
export class History<T> {
  private past: Entry<T>[] = []
  private future: Entry<T>[] = []

  /** At most this many steps are kept; the oldest go first. */
  constructor(private readonly limit = 200) {}

  get undoable() {
    return this.past.at(-1)?.name
  }

  get redoable() {
    return this.future.at(-1)?.name
  }

  /** The step that would be undone next, or done again. */
  next(back: boolean) {
    return (back ? this.past : this.future).at(-1)
  }

  /**
   * Notes what a step of that name made of what, and returns its key. Changes with the same join that follow
   * each other closely, as in typing, are one step.
   */
  push(name: string, before: T, after: T, join?: string, now = Date.now(), of?: StepOfTwo): string {
    const last = this.past.at(-1)
    if (join && last?.change && last.join === join && now - last.at < JOINED_WITHIN && !this.future.length) {
      last.at = now
      last.change.after = after
      return last.key
    }
    const key = of?.key ?? crypto.randomUUID()
    this.past.push({ key, name, change: { before, after }, join, at: now, alsoOn: of?.alsoOn })
    if (this.past.length > this.limit) this.past.shift()
    this.future = []
    return key
  }

  /** The value without the last step, given the one now; undefined where it is not known what that changed. */
  undo(now: T): T | undefined {
    return this.shift(
      this.past,
      this.future,
      ({ before, after }) => merge(after, now, before, 'theirs').value,
    )
  }

  redo(now: T): T | undefined {
    return this.shift(
      this.future,
      this.past,
      ({ before, after }) => merge(before, now, after, 'theirs').value,
    )
  }

  /** The step of a key that can be taken back, or done again. */
  find(key: string, back: boolean) {
    return (back ? this.past : this.future).find((entry) => entry.key === key)
  }

  /**
   * The value without a step, or with it again, whenever that was done; undefined where what it changed has been
   * changed since.
   */
  pick(key: string, back: boolean, now: T): T | undefined {
    const [from, to] = back ? [this.past, this.future] : [this.future, this.past]
    const entry = this.find(key, back)
    if (!entry?.change) return undefined
    const { before, after } = entry.change
    const { value, conflicts } = back ? merge(after, now, before) : merge(before, now, after)
    if (conflicts.length > 0) return undefined
    from.splice(from.indexOf(entry), 1)
    to.push({ ...entry, join: undefined })
    return value
  }

  /** Makes a change in every step as well, as if it had always been so. */
  amend(make: (value: T) => T) {
    for (const { change } of [...this.past, ...this.future])
      if (change) Object.assign(change, { before: make(change.before), after: make(change.after) })
  }

  /** Takes in what is known of all steps, in the order in which they were done. */
  learn(steps: KnownStep[]) {
    const here = new Map([...this.past, ...this.future].map((entry) => [entry.key, entry]))
    const entries = (undone: boolean) =>
      steps
        .filter((step) => step.undone === undone)
        .map(({ key, name, alsoOn }) => ({ ...(here.get(key) ?? { key, name, at: 0 }), alsoOn }))
    this.past = entries(false)
    this.future = entries(true).reverse()
  }

  private shift(from: Entry<T>[], to: Entry<T>[], without: (change: Change<T>) => T) {
    const entry = from.at(-1)
    if (!entry?.change) return undefined
    from.pop()
    to.push({ ...entry, join: undefined })
    return without(entry.change)
  }
}
