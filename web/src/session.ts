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

/** The way to a page that marks this browser as a member's on the way. */
export function ownPassage(who: Me, pageAddress: string) {
  return `${passage(who)}?page=${pageAddress}`
}

/**
 * Leads the browser of somebody who has just signed in through the public host
 * and on to a path of the studio, so that their own visits are known and not
 * counted. False when that host cannot be reached, and nothing happens.
 */
export async function passThroughPublicHost(who: Me, path: string) {
  try {
    await fetch(passage(who), { mode: 'no-cors', credentials: 'include' })
  } catch {
    return false
  }
  location.assign(`${passage(who)}?studio=${encodeURIComponent(path)}`)
  return true
}

const passage = (who: Me) => `${who.publicOrigin}/-/own/${who.ownMark}`
