import { useSessionStorage } from '@vueuse/core'
import { useSession } from '@/session'

const BEGIN = 'typed/'

/** A text that is typed and not yet sent. It outlives the view and a reload, for whoever typed it. */
export function useTyped(what: string) {
  return useSessionStorage(`${BEGIN}${useSession().me?.email}/${what}`, '')
}

/** Forgets what was typed and not sent. */
export function forgetTyped() {
  for (const key of Object.keys(sessionStorage)) if (key.startsWith(BEGIN)) sessionStorage.removeItem(key)
}
