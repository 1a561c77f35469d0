interface Entry<T> {
  name: string
  value: T
  join?: string
  at: number
}

/** Changes of one kind that follow each other within this time are one step. */
const JOINED_WITHIN = 2_500

/** An undo stack of whole values, each under the name of the change made to it. */
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

  /**
   * Notes the value as it was before the change of that name. Changes with the
   * same join that follow each other closely, as in typing, are one step.
   */
  push(name: string, before: T, join?: string, now = Date.now()) {
    const last = this.past.at(-1)
    if (join && last?.join === join && now - last.at < JOINED_WITHIN && this.future.length === 0) {
      last.at = now
      return
    }
    this.past.push({ name, value: before, join, at: now })
    if (this.past.length > this.limit) this.past.shift()
    this.future = []
  }

  /** The value before the last change, given the one now. */
  undo(now: T): T | undefined {
    return this.shift(this.past, this.future, now)
  }

  redo(now: T): T | undefined {
    return this.shift(this.future, this.past, now)
  }

  /** Makes a change in every step as well, as if it had always been so. */
  amend(make: (value: T) => T) {
    for (const entry of [...this.past, ...this.future]) entry.value = make(entry.value)
  }

  clear() {
    this.past = []
    this.future = []
  }

  private shift(from: Entry<T>[], to: Entry<T>[], now: T) {
    const entry = from.pop()
    if (entry) to.push({ name: entry.name, value: now, at: 0 })
    return entry?.value
  }
}
