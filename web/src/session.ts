import { defineStore } from 'pinia'
import { ref } from 'vue'
import { api, take, whenSignedOut, type Me } from './api/client'

/** Who is signed in. */
export const useSession = defineStore('session', () => {
  const me = ref<Me>()
  const looked = ref(false)

  function enter(who: Me) {
    me.value = who
    looked.value = true
    markBrowser(who)
  }

  /** Asks the server once who is signed in. */
  async function find() {
    if (looked.value) return
    try {
      enter(await take(api.GET('/api/me')))
    } catch {
      looked.value = true
    }
  }

  async function signOut() {
    await take(api.POST('/api/sign-out'))
    me.value = undefined
  }

  whenSignedOut(() => (me.value = undefined))
  return { me, find, enter, signOut }
})

/**
 * Lets the public host know this browser as a member's, so that own visits are
 * not counted. Where the two hosts share a site this is all it takes; elsewhere
 * opening the page from the studio does the same, see ownPassage.
 */
function markBrowser(who: Me) {
  void fetch(`${who.publicOrigin}/-/own/${who.ownMark}`, { mode: 'no-cors', credentials: 'include' }).catch(
    () => undefined,
  )
}

/** The way to a page that marks this browser as a member's on the way. */
export function ownPassage(who: Me, pageAddress: string) {
  return `${who.publicOrigin}/-/own/${who.ownMark}?page=${pageAddress}`
}
