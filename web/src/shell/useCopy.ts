import { useToast } from 'primevue/usetoast'
import { t } from '@/i18n'

/** Copies a text to the clipboard and says so. */
export function useCopy() {
  const toast = useToast()
  return async (text: string, what: string) => {
    try {
      await navigator.clipboard.writeText(text)
      toast.add({ severity: 'success', summary: t('shell.isCopied', { what }), detail: text, life: 2500 })
    } catch {
      toast.add({
        severity: 'warn',
        summary: t('shell.yourBrowserDidNotAllow'),
        detail: text,
        life: 10_000,
      })
    }
  }
}
