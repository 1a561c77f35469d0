import type { Kept, Refuge } from './autosave'
import { dropDraft, keepDraft, leaveDraft } from './drafts'

/** What is saved within this time, in milliseconds, need not be kept beside. */
const SOON = 250

/** Keeps in this browser what is not saved yet, whatever happens to the tab, the server or the session. */
export function refugeIn<V>(of: string, owner: string): Refuge<V> {
  let latest: Kept<V> | undefined
  let timer: ReturnType<typeof setTimeout> | undefined
  let kept = false

  function flush() {
    clearTimeout(timer)
    timer = undefined
    if (!latest) return
    kept = true
    // A browser that keeps nothing still asks before the tab is closed.
    keepDraft({ of, owner, at: Date.now(), ...latest }).catch(() => {})
  }
  /** The tab is being closed or loaded anew. */
  function leave() {
    if (latest) leaveDraft({ of, owner, at: Date.now(), ...latest })
    flush()
  }
  globalThis.addEventListener?.('pagehide', leave)

  return {
    keep(draft) {
      latest = draft
      timer ??= setTimeout(flush, SOON)
    },
    drop() {
      latest = undefined
      clearTimeout(timer)
      timer = undefined
      if (kept) dropDraft(of).catch(() => {})
      kept = false
    },
  }
}
