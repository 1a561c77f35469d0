import type { ToastMessageOptions } from 'primevue/toast'
import { useToast } from 'primevue/usetoast'

/** A message with a way back. */
export interface UndoMessage extends ToastMessageOptions {
  undo: () => Promise<unknown>
}

/** For how long the way back is offered, in milliseconds. */
const OFFERED = 10_000

/** Says what an action has changed on the live page, and offers to undo it for a while. */
export function useUndo() {
  const toast = useToast()
  return (summary: string, undo: () => Promise<unknown>) => {
    const message: UndoMessage = { group: 'undo', severity: 'success', summary, life: OFFERED, undo }
    toast.add(message)
  }
}
