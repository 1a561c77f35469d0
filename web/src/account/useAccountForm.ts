import { ref } from 'vue'
import { ApiError } from '@/api/client'

/** A form of the account: busy while it is sent, and what is wrong with which field. */
export function useAccountForm() {
  const busy = ref(false)
  const wrong = ref<{ field: string | undefined; message: string }>()

  async function send(ask: () => Promise<unknown>) {
    busy.value = true
    wrong.value = undefined
    try {
      await ask()
    } catch (error) {
      wrong.value = {
        field: error instanceof ApiError ? error.field : undefined,
        message: (error as Error).message,
      }
    } finally {
      busy.value = false
    }
  }

  const wrongAt = (field: string) => (wrong.value?.field === field ? wrong.value.message : undefined)
  /** What is wrong with none of these fields. */
  const wrongElse = (...fields: string[]) =>
    wrong.value && !fields.includes(wrong.value.field ?? '') ? wrong.value.message : undefined
  return { busy, send, wrongAt, wrongElse }
}
