import { defineStore } from 'pinia'
import { ref } from 'vue'
import { ApiError, api, take, whenSignedOut, type Me } from './api/client'
import { forgetAnswers } from './api/unchanged'

/** Tells the other tabs of this browser that somebody signed out. */
const others = typeof BroadcastChannel === 'undefined' ? undefined : new BroadcastChannel('jundle-session')

/** Who is signed in. */
export const useSession = defineStore('session', () => {
  const me = ref<Me>()
  const looked = ref(false)
  /** Whether the server could not be asked. */
  const away = ref(false)
  /** Whether the server knows them no longer, while they were at work: whoever signs in again goes on. */
  const ended = ref(false)

  function enter(who: Me) {
    me.value = who
    looked.value = true
    ended.value = false
  }

  /** Asks the server once who is signed in. */
  async function find() {
    if (looked.value) return
    try {
      enter(await take(api.GET('/api/me')))
      away.value = false
    } catch (error) {
      away.value = error instanceof ApiError && error.status === 0
      looked.value = !away.value
    }
  }

  /** Asks once more, after something that the server knows better. */
  async function findAnew() {
    looked.value = false
    await find()
  }

  async function signOut() {
    await take(api.POST('/api/sign-out'))
    leave()
    others?.postMessage('signed out')
  }

  /** Goes from the studio to the way in, with nothing of the account left on screen. */
  function leave() {
    forgetAnswers()
    me.value = undefined
    ended.value = false
  }

  whenSignedOut(() => (ended.value = me.value !== undefined))
  others?.addEventListener('message', ({ data }) => {
    // Another tab went to another workspace: what is open here is of this one no more.
    if (data === 'entered') location.assign('/')
    else leave()
  })
  return { me, ended, away, find, findAnew, enter, signOut, leave }
})

/** Begins anew in the workspace that somebody is in now: nothing of another is left on screen, nor in other tabs. */
export function enterAnew() {
  others?.postMessage('entered')
  sessionStorage.removeItem('jundle-page')
  location.assign('/')
}

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
  // Whoever is in no workspace has no pages to be kept out of the figures of.
  if (!who.ownMark) return false
  try {
    await fetch(passage(who), { mode: 'no-cors', credentials: 'include' })
  } catch {
    return false
  }
  location.assign(`${passage(who)}?studio=${encodeURIComponent(path)}`)
  return true
}

const passage = (who: Me) => `${who.publicOrigin}/-/own/${who.ownMark}`
