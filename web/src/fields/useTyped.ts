import { useSessionStorage } from '@vueuse/core'
import { useSession } from '@/session'

/** A text that is typed and not yet sent. It outlives the view and a reload, for whoever typed it. */
export function useTyped(what: string) {
  return useSessionStorage(`typed/${useSession().me?.email}/${what}`, '')
}
