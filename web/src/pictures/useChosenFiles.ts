import { ref } from 'vue'

/** Takes what was chosen in a file field to where it is kept, and says why when it cannot be. */
export function useChosenFiles(keep: (files: [File, ...File[]]) => Promise<void>) {
  const busy = ref(false)
  const wrong = ref('')

  async function choose(files: [File, ...File[]]) {
    busy.value = true
    wrong.value = ''
    try {
      await keep(files)
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
