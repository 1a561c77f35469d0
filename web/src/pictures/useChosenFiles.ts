import { ref } from 'vue'

/** Takes what was chosen in a file field to where it is kept, and says why when it cannot be. */
export function useChosenFiles(keep: (files: [File, ...File[]]) => Promise<void>) {
  const busy = ref(false)
  const wrong = ref('')

  async function choose(event: Event) {
    const input = event.target as HTMLInputElement
    const [first, ...more] = input.files ?? []
    // The same file may be chosen again.
    input.value = ''
    if (!first) return
    busy.value = true
    wrong.value = ''
    try {
      await keep([first, ...more])
    } catch (error) {
      wrong.value = (error as Error).message
    } finally {
      busy.value = false
    }
  }

  return { busy, wrong, choose }
}

/** Refuses a file that is larger than so many megabytes, before it is sent. */
export function atMost(megabytes: number, file: File, says: string) {
  if (file.size > megabytes * 1024 * 1024) throw new Error(says)
}
