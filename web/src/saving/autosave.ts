import { ApiError } from '@/api/client'
import { same } from './json'
import { merge, type Side } from './merge'
import { changedAt, placeOf, putBack, valueAt } from './places'

/**
 * Where a value stands against what the server keeps: saved; on its way; waiting for the server or for
 * somebody to sign in; in part or as a whole refused; changed elsewhere as well, so that somebody must choose.
 */
export type Standing = 'saved' | 'saving' | 'waiting' | 'refused' | 'conflict'

/** How one kind of thing is saved. */
export interface Saving<V, S> {
  valueOf: (state: S) => V
  revisionOf: (state: S) => number
  /**
   * Saves a value made on a revision, under a name. Throws an ApiError; of status 409 with the state as it is
   * now.
   */
  write: (value: V, revision: number, as: string) => Promise<S>
  /** The name of the save that made a state, where the server keeps it. */
  savedAs?: (state: S) => string
}

/** A save whose answer has not come. */
export interface Sent<V> {
  as: string
  value: V
}

/** A value that is not saved, with what it was made on and what the server may have taken of it. */
export interface Kept<V> {
  base: V
  value: V
  sent?: Sent<V>[]
}

/** Where a value that is not saved outlives the tab it was typed in. */
export interface Refuge<V> {
  keep: (draft: Kept<V>) => void
  drop: () => void
}

/** Something that the server will not take, at the place where it was typed. */
export interface Refusal {
  place: string
  message: string
  /** The place that is left as it was saved last, and what stands there instead. */
  held: string
  value: unknown
}

export interface Conflict<V, S> {
  /** What both sides began from. */
  base: V
  theirs: S
  /** Places that both sides changed. */
  places: string[]
}

interface Options<V> {
  /** Called after everything that may be seen has changed. */
  changed?: () => void
  /** Called when another side's change has come in: what it was made on, and what it made of that. */
  met?: (base: V, theirs: V) => void
  refuge?: Refuge<V>
}

/** Of how many saves without an answer it is known what was in them. */
const SENT_KEPT = 20

/** How long to wait before a save is tried again, in milliseconds: longer each time. */
const AGAIN = [1_000, 2_000, 4_000, 8_000, 15_000]

/**
 * Saves one value behind whoever changes it. What comes back never overwrites what was changed meanwhile;
 * what the server refuses stays as it was typed while all else is saved; changes made elsewhere are merged,
 * and only where both sides changed the same does somebody have to choose.
 */
export class Autosave<V, S> {
  value: V
  standing: Standing = 'saved'
  /** Why it is not saved, in words. */
  problem = ''
  refusals: Refusal[] = []
  conflict: Conflict<V, S> | undefined
  private unsaved = false
  private running: Promise<void> | undefined
  private timer: ReturnType<typeof setTimeout> | undefined
  private tries = 0
  private stopped = false
  /** The save under way, and those before it whose answers were lost. */
  private sent: Sent<V>[] = []

  constructor(
    private readonly saving: Saving<V, S>,
    public state: S,
    private readonly options: Options<V> = {},
  ) {
    this.value = saving.valueOf(state)
  }

  get hasUnsaved() {
    return this.unsaved || this.standing !== 'saved'
  }

  private get base() {
    return this.saving.valueOf(this.state)
  }

  /** Changes the value, and saves it now or whenever the caller finds right. */
  put(value: V, save: () => unknown = () => this.save()) {
    this.value = value
    this.unsaved = true
    // What was changed since on this screen may be in question as well, or no longer.
    if (this.conflict) this.meet(this.conflict.theirs)
    this.keep()
    if (this.standing === 'saved' || this.standing === 'refused') this.standing = 'saving'
    this.options.changed?.()
    if (!this.timer) void save()
  }

  private keep() {
    this.options.refuge?.keep({ base: this.conflict?.base ?? this.base, value: this.value, sent: this.sent })
  }

  /** Saves until nothing is unsaved, or until only somebody or time can help. Calls meanwhile join in. */
  save(): Promise<void> {
    clearTimeout(this.timer)
    this.timer = undefined
    this.running ??= this.run().finally(() => {
      this.running = undefined
      this.options.changed?.()
    })
    return this.running
  }

  private async run() {
    // Begin after whoever called is done, so that several changes go together.
    await Promise.resolve()
    while (this.unsaved && !this.conflict && !this.stopped) {
      const given = this.value
      const sent = this.withoutRefused(given)
      this.unsaved = false
      // Where an answer was lost, the server may have more than the base.
      if (this.sent.length === 0 && same(sent, this.base)) return this.rest()
      try {
        const as = this.nameOf(sent)
        this.keep()
        this.state = await this.saving.write(sent, this.saving.revisionOf(this.state), as)
        this.sent = []
        this.tries = 0
        // The server has put it in order; what was changed meanwhile stays.
        this.value = merge(sent, this.value, this.base).value
        this.rest()
      } catch (error) {
        this.unsaved = true
        if (!(error instanceof ApiError)) throw error
        if (!this.goesOnAfter(error, sent)) return
      }
    }
  }

  /** The name of a save of this value; the same as before when it is tried again. */
  private nameOf(value: V): string {
    const before = this.sent.find((each) => same(each.value, value))
    if (before) return before.as
    const as = crypto.randomUUID()
    this.sent = [...this.sent, { as, value }].slice(-SENT_KEPT)
    return as
  }

  /** What can be sent: the value, with what was refused as it was saved last. */
  private withoutRefused(value: V): V {
    this.refusals = this.refusals.filter(({ held, value: refused }) => same(valueAt(value, held), refused))
    return this.refusals.reduce((sent, { held }) => putBack(sent, this.base, held), value)
  }

  /** Nothing is left to be sent, unless something was changed meanwhile. */
  private rest() {
    if (this.unsaved) return
    this.problem = this.refusals[0]?.message ?? ''
    this.standing = this.refusals.length > 0 ? 'refused' : 'saved'
    if (this.standing === 'saved') this.options.refuge?.drop()
    this.options.changed?.()
  }

  /** Takes in why a save failed, and tells whether another can be tried at once. */
  private goesOnAfter(error: ApiError, sent: V): boolean {
    if (error.status === 409) return this.meet((error.body as { current: S }).current)
    this.problem = error.message
    if (isTemporary(error)) {
      this.standing = 'waiting'
      // Nobody is signed in: time will not help, and whoever signs in calls save.
      if (error.status !== 401) this.saveLater()
      return false
    }
    this.sent = []
    if (this.holdBack(error, sent)) return true
    this.standing = 'refused'
    return false
  }

  /** Saves nothing any more. What is unsaved stays where it is kept. */
  stop() {
    this.stopped = true
    clearTimeout(this.timer)
  }

  private saveLater() {
    if (this.stopped) return
    this.timer = setTimeout(() => void this.save(), AGAIN[Math.min(this.tries++, AGAIN.length - 1)])
  }

  /** Notes what was refused, so that all else can be saved; false when there is nothing to be left out. */
  private holdBack(error: ApiError, sent: V): boolean {
    const before = this.refusals.length
    for (const { location, message } of error.details) {
      const place = placeOf(location ?? '', sent)
      const held = changedAt(sent, this.base, place)
      if (!held || this.refusals.some((each) => each.held === held)) continue
      const refusal = { place, message: message ?? error.message, held, value: valueAt(this.value, held) }
      this.refusals = [...this.refusals, refusal]
    }
    return this.refusals.length > before
  }

  /** Brings in what was changed elsewhere; false when somebody has to choose. */
  private meet(theirs: S): boolean {
    const { base: before, known } = this.sharedWith(theirs, this.conflict?.base ?? this.base)
    const other = this.saving.valueOf(theirs)
    const base = this.withOurs(before, other)
    const { value, conflicts } = merge(base, this.value, other)
    const places = known ? [] : conflicts
    this.sent = []
    if (places.length > 0) {
      this.conflict = { base, theirs, places }
      this.standing = 'conflict'
      return false
    }
    this.state = theirs
    this.conflict = undefined
    this.value = value
    this.standing = 'saving'
    this.options.met?.(base, other)
    return true
  }

  /** The base, with what the other side has of ours: we wrote it in a save whose answer was lost. */
  private withOurs(base: V, other: V): V {
    const isOurs = (place: string) => {
      const there = valueAt(other, place)
      return (
        there !== undefined &&
        valueAt(base, place) !== undefined &&
        this.sent.some(({ value }) => same(valueAt(value, place), there))
      )
    }
    const { conflicts } = merge(base, this.value, other)
    return conflicts.filter(isOurs).reduce((shared, place) => putBack(shared, other, place), base)
  }

  /**
   * What both sides have in common. A save of our own whose answer was lost is known again by its name: there
   * is no other side then, and nothing to be asked.
   */
  private sharedWith(theirs: S, base: V, sent = this.sent): { base: V; known: boolean } {
    const as = this.saving.savedAs?.(theirs)
    const found = sent.find((each) => each.as === as)
    return { base: found?.value ?? base, known: found !== undefined }
  }

  /** Ends a conflict: what both sides changed stays as one of them made it. */
  choose(side: Side) {
    if (!this.conflict) return
    const { base, theirs } = this.conflict
    const other = this.saving.valueOf(theirs)
    this.state = theirs
    this.conflict = undefined
    this.options.met?.(base, other)
    this.standing = 'saving'
    this.put(merge(base, this.value, other, side).value)
  }

  /** Takes in the state as the server has it, when nothing here is unsaved or somebody has to choose anyway. */
  refresh(state: S): void {
    const { revisionOf } = this.saving
    if (this.conflict && revisionOf(state) > revisionOf(this.conflict.theirs)) return this.catchUp(state)
    if (this.hasUnsaved || this.running) return
    const [base, theirs] = [this.base, this.saving.valueOf(state)]
    this.state = state
    this.value = theirs
    if (!same(base, theirs)) this.options.met?.(base, theirs)
    this.options.changed?.()
  }

  /** Takes in the state as the server has it, whatever is unsaved here. */
  catchUp(state: S): void {
    if (!this.hasUnsaved) return this.refresh(state)
    if (this.meet(state)) void this.save()
    this.options.changed?.()
  }

  /** Takes in the answer to something else than a save, which changed nothing of the value. */
  adopt(state: S) {
    const unchanged = !this.hasUnsaved
    this.state = state
    if (unchanged) this.value = this.base
    this.options.changed?.()
  }

  /** Goes on with what was typed on an earlier state and never saved. False when nothing of it is new. */
  resume({ base: before, value, sent = [] }: Kept<V>): boolean {
    const { base, known } = this.sharedWith(this.state, before, sent)
    this.sent = [...sent, ...this.sent]
    const { value: merged, conflicts } = merge(base, value, this.value)
    if (same(merged, this.value)) {
      // What is still under way must not come after this.
      if (sent.length > 0) this.put(merged)
      return false
    }
    if (conflicts.length > 0 && !known && !this.hasUnsaved) {
      this.conflict = { base, theirs: this.state, places: conflicts }
      this.standing = 'conflict'
      this.put(value)
    } else this.put(merged)
    return true
  }
}

/** Whether the same may succeed later. */
function isTemporary({ status }: ApiError) {
  return status === 0 || status >= 500 || [401, 408, 425, 429].includes(status)
}
