import { useToast } from 'primevue/usetoast'

/** Copies a text to the clipboard and says so. */
export function useCopy() {
  const toast = useToast()
  return async (text: string, what: string) => {
    try {
      await navigator.clipboard.writeText(text)
      toast.add({ severity: 'success', summary: `${what} is copied`, detail: text, life: 2500 })
    } catch {
      toast.add({
        severity: 'warn',
        summary: 'Your browser did not allow copying',
        detail: text,
        life: 10_000,
      })
    }
  }
}
