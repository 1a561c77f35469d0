import { useRouter } from 'vue-router'
import { passThroughPublicHost, useSession } from '@/session'

/** Goes to a path of the studio after signing in, by way of the public host where it can be reached. */
export function useArrival() {
  const router = useRouter()
  const session = useSession()
  return async (path: string) => {
    if (session.me && (await passThroughPublicHost(session.me, path))) return
    await router.push(path)
  }
}
