import { shallowRef, triggerRef } from 'vue'
import { useSession } from '@/session'
import { Autosave, type Conflict, type Kept, type Saving } from './autosave'
import { takeDrafts } from './drafts'
import { refugeIn } from './refuge'

/** One place that both sides changed, for somebody who has to choose. */
export interface ConflictWords {
  name: string
  mine: string
  theirs: string
}

/** Something that is edited and saves itself. */
export interface Edited<V, S> {
  /** What it is, as the server knows it: "page/0198…". */
  of: string
  /** What it is called. */
  name: (value: V) => string
  saving: Saving<V, S>
  conflictSides: (conflict: Conflict<V, S>, mine: V) => ConflictWords[]
  /** Called when another side's change has come in: what it was made on, and what it made of that. */
  met?: (base: V, theirs: V) => void
  /** Called when what was typed earlier has come back, with what stood there before. */
  resumed?: (before: V) => void
}

// eslint-disable-next-line @typescript-eslint/no-explicit-any -- whatever is edited, it is saved alike
type Any = any

export interface Editing {
  edited: Edited<Any, Any>
  autosave: Autosave<Any, Any>
  /** Whether something that was not saved has come back. */
  cameBack: boolean
  /** Resolves once that is known. */
  ready: Promise<void>
}

/** All that is edited, by what it is. Whoever reads it learns of every change of each. */
export const editing = shallowRef(new Map<string, Editing>())
/** Tells whoever reads it. */
export const changed = () => triggerRef(editing)

/** Begins to edit something; what was typed into it earlier and never saved comes back by itself. */
export function beginEditing<V, S>(edited: Edited<V, S>, state: S): Autosave<V, S> {
  const owner = useSession().me?.email ?? ''
  const refuge = refugeIn<V>(edited.of, owner)
  const autosave = new Autosave<V, S>(edited.saving, state, { changed, met: edited.met, refuge })
  const entry: Editing = { edited, autosave, cameBack: false, ready: Promise.resolve() }
  entry.ready = takeDrafts(edited.of, owner, Date.now()).then(
    (drafts) => drafts.forEach((draft) => resume(entry, draft)),
    () => {}, // a browser that keeps nothing has nothing to bring back
  )
  editing.value.set(edited.of, entry)
  changed()
  return autosave
}

function resume(entry: Editing, draft: Kept<unknown>) {
  const before: unknown = entry.autosave.value
  if (!entry.autosave.resume(draft)) return
  entry.cameBack = true
  entry.edited.resumed?.(before)
  changed()
}

/** Saves all that is not saved yet, as far as it can be now. */
export async function saveAll() {
  await Promise.all([...editing.value.values()].map(({ autosave }) => autosave.save()))
}

export const anyUnsaved = () => [...editing.value.values()].some(({ autosave }) => autosave.hasUnsaved)

/** Closes the message that something has come back. */
export function acknowledge(entry: Editing) {
  entry.cameBack = false
  changed()
}

/** Leaves nothing of one account to the next. */
export function forgetEditing() {
  editing.value.forEach(({ autosave }) => autosave.stop())
  editing.value = new Map()
}

// Whoever is on a bad line need not wait for the next try.
globalThis.addEventListener?.('online', () => void saveAll())
