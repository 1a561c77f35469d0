import { randomBytes, randomInt } from 'node:crypto'
import { devices, expect, type Browser, type Page } from '@playwright/test'
import type { Me } from './api'
import { letterTo, linkIn } from './letters'
import { STANDINS } from './places'

/** The demo's creator, whose pages have ninety days of visits. */
export const ILSE = { email: 'ilse@quarrow.example', password: 'forty hours of fire' }

export const PASSWORD = 'clay and water and fire'
export const emailOf = (address: string) => `${address}@quarrow.example`

/** A name nobody has taken yet. */
export const freshName = (stem: string) => `${stem}-${randomBytes(4).toString('hex')}`

/** Opens an account the way a new user does, and arrives in Arrange with an empty page. */
export async function signUp(page: Page, address: string) {
  await page.goto('/sign-up')
  await page.getByLabel('Page address').fill(address)
  await page.getByLabel('E-mail address').fill(emailOf(address))
  await page.getByRole('button', { name: 'Send me the link' }).click()
  await openByLetter(page, emailOf(address))
  await page.getByRole('link', { name: 'Begin with an empty page' }).click()
  await expect(page.getByLabel('Paste an address to add a button')).toBeVisible()
}

/** Opens the account that a letter is about, with the password of all. */
export async function openByLetter(page: Page, email: string, type = fillPassword) {
  await page.goto(linkIn(await letterTo(page.request, email, /^Open your account$/)))
  await type(page)
  await page.getByRole('button', { name: 'Open account' }).click()
}

const fillPassword = (page: Page) => page.getByLabel('Password').fill(PASSWORD)

/** Opens an account behind the scenes, and arrives at the choice of ready-made pages. */
export async function openAccount(page: Page, address: string) {
  await register(page, address)
  await page.goto('/')
  await expect(page.getByText('not published yet')).toBeVisible()
}

/** Opens an account behind the scenes, and arrives in Arrange with an empty page. */
export async function startEmpty(page: Page, address: string) {
  await register(page, address)
  const [{ id }] = (await (await page.request.get('/api/pages')).json()) as { id: string }[]
  await page.goto(`/pages/${id}/arrange`)
  await expect(page.getByLabel('Paste an address to add a button')).toBeVisible()
}

/** Does what the form of signing up does: an account, a session, and the mark of one’s own browser on the public host. */
async function register(page: Page, address: string) {
  const email = emailOf(address)
  // Each comes from a network of its own: from one, a hundred accounts are asked for at most.
  const headers = { 'X-Forwarded-For': `198.18.${randomInt(256)}.${randomInt(256)}` }
  const asked = { email, pageAddress: address, zone: Intl.DateTimeFormat().resolvedOptions().timeZone }
  expect((await page.request.post('/api/sign-up', { data: asked, headers })).status()).toBe(202)
  const [, token] = linkIn(await letterTo(page.request, email, /^Open your account$/)).split('#')
  const account = { token, password: PASSWORD, pageAddress: address }
  const answer = await page.request.post('/api/accounts', { data: account, headers })
  const { me } = (await answer.json()) as { me: Me }
  expect((await page.request.get(`${me.publicOrigin}/-/own/${me.ownMark}`)).ok()).toBe(true)
}

/** How many networks people sign in from: from one, eight attempts in a row are let through. */
const NETWORKS = 20

export async function signIn(page: Page, who: { email: string; password: string }) {
  await page.route('**/api/sign-in', (route) =>
    route.continue({
      headers: { ...route.request().headers(), 'X-Forwarded-For': `198.19.0.${1 + randomInt(NETWORKS)}` },
    }),
  )
  await page.goto('/sign-in')
  await page.getByLabel('E-mail address').fill(who.email)
  await page.getByLabel('Password').fill(who.password)
  await page.getByRole('button', { name: 'Sign in', exact: true }).click()
  await expect(page.locator('.rows li').first()).toBeVisible()
}

/** Adds a button by the paste line and waits for what the site says of itself. On a phone its title is selected then. */
export async function add(page: Page, address: string, title: string) {
  await page.getByLabel('Paste an address to add a button').fill(address)
  await page.keyboard.press('Enter')
  await expect(row(page, title)).toBeVisible()
}

/** Adds a button and leaves its title as the site gives it. */
export async function paste(page: Page, address: string, title: string) {
  await add(page, address, title)
  if ((await row(page, title).locator('input').count()) > 0) await page.keyboard.press('Escape')
}

/** Opens the list of pages. */
export async function allPages(page: Page) {
  await page.getByRole('banner').getByRole('link', { name: 'All pages' }).click()
}

/** Makes another page with nothing on it, and arrives in its Arrange. */
export async function addPage(page: Page, address: string) {
  await allPages(page)
  await page.getByLabel('Address of another page').fill(address)
  await page.getByRole('button', { name: 'Add page' }).click()
  await page.getByRole('link', { name: 'Begin with an empty page' }).click()
  await expect(page.getByText('No buttons yet')).toBeVisible()
}

/** Signs out, which on a phone stands in the settings. */
export async function signOut(page: Page) {
  const button = page.getByRole('button', { name: 'Sign out' })
  if (!(await button.first().isVisible())) await page.getByRole('link', { name: 'Settings' }).click()
  await button.filter({ visible: true }).click()
}

/** The row of Arrange with that title. */
export const row = (page: Page, title: string) =>
  page.getByRole('list', { name: 'Blocks of the page' }).getByRole('listitem', { name: title })

/** The titles in Arrange, top to bottom. */
export const titles = (page: Page) =>
  page
    .locator('.rows > li')
    .evaluateAll((rows) => rows.map((each) => each.getAttribute('aria-label')?.replace(/^[^:]*: /, '')))

/** Publishes and returns what the dialog said would change. */
export async function publish(page: Page) {
  await page.getByRole('button', { name: 'Publish', exact: true }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog.getByRole('button', { name: 'Publish now' })).toBeEnabled()
  const words = await dialog.locator('.changes li').allTextContents()
  await dialog.getByRole('button', { name: 'Publish now' }).click()
  await expect(page.getByText('nothing waiting')).toBeVisible()
  return words
}

/** A visitor on a phone: another browser, with a phone's user agent. */
export async function phoneVisitor(browser: Browser) {
  const context = await browser.newContext({ ...devices['iPhone 14'] })
  return context.newPage()
}

/** Puts an address into a made-up profile, as the creator does on a real network. */
export async function putIntoProfile(page: Page, network: string, name: string, address: string) {
  await page.goto(`${STANDINS}/profile/${network}/${name}`)
  await page.getByLabel('The one link of this profile').fill(address)
  await page.getByRole('button', { name: 'Save profile' }).click()
  await expect(page.getByRole('link', { name: address })).toBeVisible()
}
