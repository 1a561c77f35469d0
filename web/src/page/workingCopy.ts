import { api, take, type Block, type Document, type PageState } from '@/api/client'
import { t } from '@/i18n'
import type { Autosave, Saving } from '@/saving/autosave'
import { beginEditing, changed, editing } from '@/saving/editing'
import { copyJson, same } from '@/saving/json'
import { merge } from '@/saving/merge'
import { conflictWords } from './conflictWords'
import { History, type StepOfTwo } from './history'
import { StepsTaken } from './stepsTaken'

/** On a line so bad that a save takes longer than this, in milliseconds, it is tried anew. */
const SAVE_WITHIN = 30_000

const saving = (page: string, taken: StepsTaken, saved: () => void): Saving<Document, PageState> => ({
  valueOf: (state) => state.document,
  revisionOf: (state) => state.revision,
  savedAs: (state) => state.savedAs,
  write: async (document, revision, as) => {
    const { steps, told } = taken.tell()
    const state = await take(
      api.PUT('/api/pages/{page}/draft', {
        params: { path: { page } },
        body: { revision, document, as, steps },
        signal: AbortSignal.timeout(SAVE_WITHIN),
      }),
    )
    told()
    saved()
    return state
  },
})

/** A page being worked on: its document, the steps that led there, and how it is saved. */
export class WorkingCopy {
  readonly id: string
  readonly autosave: Autosave<Document, PageState>
  readonly history = new History<Document>()
  private readonly taken = new StepsTaken()
  /** Counts what was done to the steps, so that a list of them that comes later is known to be old. */
  private stepped = 0
  /** Counts what was done that is no step back or again. */
  private noted = 0
  /** Steps that are taken one after the other, because what they changed has to be fetched. */
  private stepping: Promise<unknown> = Promise.resolve()
  private waiting = 0
  private learning = Promise.resolve()
  /** Whether something was done elsewhere since the steps were learnt. */
  private outdated = true

  constructor(state: PageState) {
    this.id = state.id
    this.autosave = beginEditing<Document, PageState>(
      {
        of: `page/${state.id}`,
        name: (document) => document.header.name || state.address,
        saving: saving(state.id, this.taken, () => {
          if (this.outdated) this.learning = this.learnSteps()
        }),
        conflictSides: ({ places, base, theirs }, mine) => conflictWords(places, base, mine, theirs.document),
        met: (base, theirs) => {
          this.taken.meet((before) => merge(base, before, theirs).value)
          this.outdated = true
          this.learning = this.learnSteps()
        },
        resumed: (before) => this.note(t('page.bringBack'), before, this.document),
      },
      state,
    )
    this.learning = this.learnSteps()
  }

  /** Resolves once it is known what was typed earlier and never saved. */
  get ready() {
    return editing.value.get(`page/${this.id}`)?.ready
  }

  get document() {
    return this.autosave.value
  }

  /** Makes a change under a name that Undo can say. Changes with the same join, as in typing, are one step. */
  change(name: string, make: (draft: Document) => void, join?: string, of?: StepOfTwo) {
    const draft = copyJson(this.document)
    make(draft)
    // Once more: what was put in may be shared with a form.
    const next = copyJson(draft)
    if (same(next, this.document)) return
    this.note(name, this.document, next, join, of)
    this.autosave.put(next)
  }

  changeBlock(name: string, key: string, make: (block: Block) => void, join?: string) {
    this.change(name, (draft) => within(draft, key, make), join)
  }

  /**
   * Fills something into a block that the creator did not do and need not undo:
   * it becomes part of every step in which the block is there.
   */
  fillIn(key: string, make: (block: Block) => void) {
    const filled = (before: Document) => {
      const next = copyJson(before)
      within(next, key, make)
      return next
    }
    this.history.amend(filled)
    this.taken.meet(filled)
    const last = this.history.next(true)
    if (
      last?.change &&
      !this.history.next(false) &&
      isIn(last.change.after, key) &&
      !isIn(last.change.before, key)
    )
      this.taken.add({ key: last.key, name: last.name, way: 'done', before: this.document })
    this.autosave.put(filled(this.document))
  }

  /**
   * Takes the last step back, or does it again. What is not known here of the step is fetched before; if
   * something else is done meanwhile, that stays and the step as well. Returns the step that was taken.
   */
  async step(back: boolean) {
    if (this.waiting === 0 && this.history.next(back)?.change) return this.stepNow(back)
    this.waiting++
    changed()
    const noted = this.noted
    const taken = this.stepping.then(() => this.fetchStep(back, noted))
    this.stepping = taken
    return taken.finally(() => {
      this.waiting--
      this.stepping = Promise.resolve()
      changed()
    })
  }

  /**
   * Takes back, or does again, what a step of another page changed on this one. False where it was changed here
   * since: then it stays.
   */
  async stepOf(key: string, back: boolean) {
    await this.learning
    if (!this.history.find(key, back)) {
      // What was done elsewhere is learnt once nothing here is on its way.
      await this.autosave.save()
      await this.learning
    }
    const step = this.history.find(key, back)
    if (!step) return this.history.find(key, !back) !== undefined
    step.change ??= await this.fetchChange(key)
    const before = this.document
    const next = this.history.pick(key, back, before)
    if (!next) return false
    this.stepped++
    this.taken.add({ key, name: step.name, way: back ? 'undone' : 'redone', before })
    this.autosave.put(next)
    return true
  }

  /** Whether a step is waited for. */
  get isStepping() {
    return this.waiting > 0
  }

  private stepNow(back: boolean) {
    const step = this.history.next(back)
    const before = this.document
    const previous = back ? this.history.undo(before) : this.history.redo(before)
    if (!step || !previous) return undefined
    this.stepped++
    this.taken.add({ key: step.key, name: step.name, way: back ? 'undone' : 'redone', before })
    this.autosave.put(previous)
    return step
  }

  private async fetchStep(back: boolean, noted: number) {
    if (!this.history.next(back)) await this.learning
    const step = this.history.next(back)
    if (!step || noted !== this.noted) return undefined
    step.change ??= await this.fetchChange(step.key)
    return noted === this.noted ? this.stepNow(back) : undefined
  }

  private fetchChange(step: string) {
    const path = { page: this.id, step }
    return take(api.GET('/api/pages/{page}/steps/{step}', { params: { path } }))
  }

  private note(name: string, before: Document, after: Document, join?: string, of?: StepOfTwo) {
    this.stepped++
    this.noted++
    const key = this.history.push(name, before, after, join, Date.now(), of)
    this.taken.add({ key, name, way: 'done', before })
  }

  /** Learns what was done earlier and elsewhere. Nothing depends on it but what Undo offers. */
  private async learnSteps() {
    const known = this.stepped
    if (!this.taken.none) return
    const path = { page: this.id }
    const steps = await take(api.GET('/api/pages/{page}/steps', { params: { path } })).catch(() => undefined)
    if (!steps || known !== this.stepped || !this.taken.none) return
    this.outdated = false
    this.history.learn(steps)
    changed()
  }
}

function within(draft: Document, key: string, make: (block: Block) => void) {
  const block = draft.blocks.find((each) => each.key === key)
  if (block) make(block)
}

const isIn = (document: Document, key: string) => document.blocks.some((block) => block.key === key)
