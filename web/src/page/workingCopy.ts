import { api, take, type Block, type Document, type PageState } from '@/api/client'
import { t } from '@/i18n'
import type { Autosave, Saving } from '@/saving/autosave'
import { beginEditing, editing } from '@/saving/editing'
import { copyJson, same } from '@/saving/json'
import { merge } from '@/saving/merge'
import { conflictWords } from './conflictWords'
import { History } from './history'

/** On a line so bad that a save takes longer than this, in milliseconds, it is tried anew. */
const SAVE_WITHIN = 30_000

const saving = (page: string): Saving<Document, PageState> => ({
  valueOf: (state) => state.document,
  revisionOf: (state) => state.revision,
  savedAs: (state) => state.savedAs,
  write: (document, revision, as) =>
    take(
      api.PUT('/api/pages/{page}/draft', {
        params: { path: { page } },
        body: { revision, document, as },
        signal: AbortSignal.timeout(SAVE_WITHIN),
      }),
    ),
})

/** A page being worked on: its document, the steps that led there, and how it is saved. */
export class WorkingCopy {
  readonly id: string
  readonly autosave: Autosave<Document, PageState>
  readonly history = new History<Document>()

  constructor(state: PageState) {
    this.id = state.id
    this.autosave = beginEditing<Document, PageState>(
      {
        of: `page/${state.id}`,
        name: (document) => document.header.name || state.address,
        saving: saving(state.id),
        conflictSides: ({ places, base, theirs }, mine) => conflictWords(places, base, mine, theirs.document),
        // Undoing what was done here must not undo what was done elsewhere.
        met: (base, theirs) => this.history.amend((step) => merge(base, step, theirs).value),
        resumed: (before) => this.history.push(t('page.bringBack'), before),
      },
      state,
    )
  }

  /** Resolves once it is known what was typed earlier and never saved. */
  get ready() {
    return editing.value.get(`page/${this.id}`)?.ready
  }

  get document() {
    return this.autosave.value
  }

  /** Makes a change under a name that Undo can say. Changes with the same join, as in typing, are one step. */
  change(name: string, make: (draft: Document) => void, join?: string) {
    const draft = copyJson(this.document)
    make(draft)
    // Once more: what was put in may be shared with a form.
    const next = copyJson(draft)
    if (same(next, this.document)) return
    this.history.push(name, this.document, join)
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
    this.autosave.put(filled(this.document))
  }

  step(back: boolean) {
    const previous = back ? this.history.undo(this.document) : this.history.redo(this.document)
    if (previous) this.autosave.put(previous)
  }
}

function within(draft: Document, key: string, make: (block: Block) => void) {
  const block = draft.blocks.find((each) => each.key === key)
  if (block) make(block)
}
