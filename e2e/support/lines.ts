import { expect, type Page, type Route } from '@playwright/test'
import type { Document, PageState } from './api'
import { STUDIO } from './places'
import type { Random } from './random'

/** Every answer of the studio's API takes so much longer, in milliseconds, as on a bad line. */
export async function slowDown(page: Page, milliseconds: number) {
  await page.route('**/api/**', async (route) => {
    await new Promise((resolve) => setTimeout(resolve, milliseconds))
    await route.continue().catch(() => {}) // the page may be gone by then
  })
}

/** Lets the answers to saves come late, fail, or get lost once the server has done what it was asked. */
export async function spoil(
  page: Page,
  line: Random,
  told: { saved?: (route: Route) => void; failed?: () => void } = {},
) {
  async function fail(how: () => Promise<void>) {
    told.failed?.()
    await how().catch(() => {}) // the page was reloaded meanwhile
  }
  await page.route('**/api/pages/*/draft', async (route) => {
    await new Promise((resolve) => setTimeout(resolve, line.below(120)))
    if (line.chance(0.05)) return fail(() => route.abort('connectionfailed'))
    if (line.chance(0.03)) return fail(() => route.fulfill({ status: 503, body: '{}' }))
    const answer = await route.fetch().catch(() => undefined)
    if (!answer) return fail(() => route.abort('connectionfailed'))
    if (answer.ok()) told.saved?.(route)
    if (line.chance(0.03)) return fail(() => route.abort('connectionreset'))
    await route.fulfill({ response: answer }).catch(() => {})
  })
}

/** Ends the session as if it had run out, without the browser's knowing. */
export async function endSession(page: Page) {
  const cookies = await page.context().cookies()
  await page.context().clearCookies()
  return () => page.context().addCookies(cookies)
}

/** Waits until everything on the open page is saved, and nothing of it is refused. */
export const settled = (page: Page) =>
  expect(page.locator('.standing').getByText(/saving|saved/)).toHaveCount(0, { timeout: 30_000 })

/** The page whose name stands above, in views of all pages too. */
const openPage = (page: Page) => page.evaluate(() => sessionStorage.getItem('jundle-page'))

/** The working copy as the server has it. */
export async function saved(page: Page): Promise<Document> {
  const answer = await page.request.get(`/api/pages/${await openPage(page)}`)
  return ((await answer.json()) as PageState).document
}

/** Somebody else gives the first button another title, and so does whoever is at this screen, who has not heard of it. */
export async function disagree(page: Page) {
  const id = await openPage(page)
  const { revision, document } = (await (await page.request.get(`/api/pages/${id}`)).json()) as PageState
  document.blocks[0]!.button!.title = 'Shops, written elsewhere'
  const answer = await page.request.put(`/api/pages/${id}/draft`, {
    data: { revision, document },
    headers: { Origin: STUDIO },
  })
  expect(answer.status()).toBe(200)
  await page.locator('.rows li .piece').first().click()
  await page.getByLabel('Title', { exact: true }).fill('Stockists, typed here')
  await page.keyboard.press('Escape')
  const choice = page.getByRole('alert', { name: 'Changed here and elsewhere' })
  await expect(choice).toBeVisible()
  return choice
}

/** Waits until nothing moves or changes its colours any more, but for what glows for ever. */
export const atRest = (page: Page) =>
  page.waitForFunction(() =>
    document
      .getAnimations()
      .every(
        (each) => each.playState !== 'running' || each.effect?.getComputedTiming().iterations === Infinity,
      ),
  )
