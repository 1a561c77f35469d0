import { expect, test, type Browser, type Page } from '@playwright/test'
import { expectClean, expectCleanAtBothSizes } from './support/axe'
import { codeOf } from './support/codes'
import { letterTo, linkIn } from './support/letters'
import { emailOf, freshName, PASSWORD, signUp, startEmpty } from './support/people'

/** Another browser of somebody, on another device. */
const elsewhere = async (browser: Browser) => (await browser.newContext()).newPage()

/** Signs in as whoever, without expecting how far that leads. */
async function tryToSignIn(page: Page, email: string, password: string) {
  await page.goto('/sign-in')
  await page.getByLabel('E-mail address').fill(email)
  await page.getByLabel('Password').fill(password)
  await page.getByRole('button', { name: 'Sign in', exact: true }).click()
}

const openAccountView = async (page: Page) => {
  await page.goto('/settings/account')
  await expect(page.getByRole('heading', { name: 'Where you are signed in' })).toBeVisible()
}

test('an account opens by a letter, and asking twice for one tells nobody else', async ({
  page,
  browser,
}) => {
  const name = freshName('confirmed')
  await page.goto('/sign-up')
  await page.getByLabel('Page address').fill(name)
  await page.getByLabel('E-mail address').fill(emailOf(name))
  await page.getByRole('button', { name: 'Send me the link' }).click()
  await expect(page.getByRole('heading', { name: 'Look into your mailbox' })).toBeVisible()
  await expectCleanAtBothSizes(page, 'main')
  const link = linkIn(await letterTo(page.request, emailOf(name), /^Open your account$/))
  await page.goto(link)
  await expect(page.getByText(`You sign in with it and ${emailOf(name)}`)).toBeVisible()
  await expectCleanAtBothSizes(page, 'main')
  await page.getByLabel('Password').fill('short')
  await page.getByRole('button', { name: 'Open account' }).click()
  await expect(page.getByRole('alert')).toContainText('12 to 128')
  await page.getByLabel('Password').fill(PASSWORD)
  await page.getByRole('button', { name: 'Open account' }).click()
  await expect(page.getByText('not published yet')).toBeVisible()

  const stranger = await elsewhere(browser)
  await stranger.goto(link)
  await expect(stranger.getByRole('heading', { name: 'This link is over' })).toBeVisible()
  await stranger.getByRole('link', { name: 'Open an account' }).click()
  await stranger.getByLabel('Page address').fill(freshName('other'))
  await stranger.getByLabel('E-mail address').fill(emailOf(name))
  await stranger.getByRole('button', { name: 'Send me the link' }).click()
  await expect(stranger.getByRole('heading', { name: 'Look into your mailbox' })).toBeVisible()
  await letterTo(page.request, emailOf(name), /^You have an account already$/)
  await stranger.context().close()
})

test('a forgotten password is set anew by a letter, and the old one opens nothing', async ({
  page,
  browser,
}) => {
  const name = freshName('forgotten')
  await startEmpty(page, name)
  const other = await elsewhere(browser)
  await other.goto('/sign-in')
  await other.getByRole('link', { name: 'Forgotten your password?' }).click()
  await expect(other.getByRole('heading', { name: 'Choose a new password' })).toBeVisible()
  await other.getByLabel('E-mail address').fill(emailOf(name))
  await other.getByRole('button', { name: 'Send me the link' }).click()
  await expect(other.getByRole('heading', { name: 'Look into your mailbox' })).toBeVisible()
  await other.goto(linkIn(await letterTo(page.request, emailOf(name), /^Choose a new password$/)))
  await other.getByLabel('New password').fill('ash and celadon and iron')
  await other.getByRole('button', { name: 'Set the password' }).click()
  await expect(other.getByRole('heading', { name: 'Your password is changed' })).toBeVisible()
  await tryToSignIn(other, emailOf(name), PASSWORD)
  await expect(other.getByRole('alert')).toContainText('do not go together')
  await tryToSignIn(other, emailOf(name), 'ash and celadon and iron')
  await expect(other.getByText('not published yet')).toBeVisible()
  // Whoever is at work elsewhere signs in where they are, with the new one.
  await page.getByRole('link', { name: 'Settings' }).click()
  const again = page.getByRole('dialog', { name: /session/i })
  await again.getByLabel('Password').fill('ash and celadon and iron')
  await again.getByRole('button', { name: 'Sign in', exact: true }).click()
  await expect(again).toHaveCount(0)
  await other.context().close()
})

test('a code is asked for besides the password, and a recovery code stands in for it', async ({
  page,
  browser,
}) => {
  const name = freshName('coded')
  await startEmpty(page, name)
  await openAccountView(page)
  await page.getByRole('button', { name: 'Set it up' }).click()
  const secret = (await page.locator('section code').innerText()).replaceAll(' ', '')
  await page.getByLabel('Code', { exact: true }).fill('000000')
  await page.getByLabel('Your password').fill(PASSWORD)
  await page.getByRole('button', { name: 'Ask for a code from now on' }).click()
  await expect(page.getByRole('alert')).toContainText('This is not the code')
  await page.getByLabel('Code', { exact: true }).fill(codeOf(secret))
  await page.getByRole('button', { name: 'Ask for a code from now on' }).click()
  await expect(page.getByText('Keep these recovery codes')).toBeVisible()
  const recovery = await page.locator('.recovery li').nth(2).innerText()
  await expectCleanAtBothSizes(page, 'main')
  await page.getByRole('button', { name: 'I have kept them' }).click()
  await expect(page.getByText('10 recovery codes are left')).toBeVisible()

  const phone = await elsewhere(browser)
  await tryToSignIn(phone, emailOf(name), PASSWORD)
  await expect(phone.getByLabel('Code')).toBeVisible()
  await expectClean(phone, 'main')
  // A code is taken once, so that of the next half minute, which is taken early.
  await phone.getByLabel('Code').fill(codeOf(secret, 1))
  await phone.getByRole('button', { name: 'Sign in', exact: true }).click()
  await expect(phone.getByText('not published yet')).toBeVisible()

  const lost = await elsewhere(browser)
  await tryToSignIn(lost, emailOf(name), PASSWORD)
  await lost.getByLabel('Code').fill(recovery)
  await lost.getByRole('button', { name: 'Sign in', exact: true }).click()
  await expect(lost.getByText('not published yet')).toBeVisible()
  await letterTo(page.request, emailOf(name), /^A recovery code was used$/)
  await page.getByRole('button', { name: 'Ask for no code' }).click()
  await page.getByLabel('Your password').fill(PASSWORD)
  await page.getByRole('button', { name: 'Ask for no code' }).click()
  await expect(page.getByRole('button', { name: 'Set it up' })).toBeVisible()
  for (const each of [phone, lost]) await each.context().close()
})

test('a passkey signs in without a password', async ({ page }) => {
  const name = freshName('passkey')
  await signUp(page, name)
  const devTools = await page.context().newCDPSession(page)
  await devTools.send('WebAuthn.enable')
  await devTools.send('WebAuthn.addVirtualAuthenticator', {
    options: {
      protocol: 'ctap2',
      transport: 'internal',
      hasResidentKey: true,
      hasUserVerification: true,
      isUserVerified: true,
      automaticPresenceSimulation: true,
    },
  })
  await openAccountView(page)
  await page.getByRole('button', { name: 'Add a passkey' }).click()
  await page.getByLabel('What to call it').fill('My phone')
  await page.getByLabel('Your password').fill(PASSWORD)
  await page.getByRole('button', { name: 'Make the passkey' }).click()
  await expect(page.getByText('My phone')).toBeVisible()
  await letterTo(page.request, emailOf(name), /^A passkey was added/)

  await page.request.post('/api/sign-out')
  await page.goto('/sign-in')
  await page.getByRole('button', { name: 'Use a passkey instead' }).click()
  await expect(page.getByText('not published yet')).toBeVisible()
  await openAccountView(page)
  await expect(page.getByText(/last used/).filter({ hasText: 'Made' })).toBeVisible()
  await page.getByRole('button', { name: 'Remove “My phone”' }).click()
  await page.getByLabel('Your password').fill(PASSWORD)
  await page.getByRole('button', { name: 'Remove “My phone”' }).click()
  await expect(page.getByText('My phone')).toHaveCount(0)
  await page.request.post('/api/sign-out')
  await page.goto('/sign-in')
  await page.getByRole('button', { name: 'Use a passkey instead' }).click()
  await expect(page.getByRole('alert')).toContainText('Nobody signs in here with this passkey')
})

test('a session is ended from another device', async ({ page, browser }) => {
  const name = freshName('sessions')
  await startEmpty(page, name)
  const phone = await elsewhere(browser)
  await tryToSignIn(phone, emailOf(name), PASSWORD)
  await expect(phone.getByText('not published yet')).toBeVisible()
  await openAccountView(page)
  const list = page.getByRole('region', { name: 'Where you are signed in' }).getByRole('listitem')
  await expect(list).toHaveCount(2)
  await expect(list.first()).toContainText('here')
  await expectCleanAtBothSizes(page, 'main')
  await list
    .nth(1)
    .getByRole('button', { name: /^Sign out/ })
    .click()
  await expect(list).toHaveCount(1)
  await phone.getByRole('link', { name: 'Settings' }).click()
  await expect(phone.getByRole('dialog', { name: /session/i })).toBeVisible()
  await phone.context().close()
})

test('an e-mail address and a password are changed, and the old address is told', async ({ page }) => {
  const name = freshName('moved')
  await startEmpty(page, name)
  await openAccountView(page)
  const next = emailOf(freshName('moved-to'))
  await page.getByRole('button', { name: 'Change the address' }).click()
  await page.getByLabel('New e-mail address').fill(next)
  await page.getByLabel('Your password').fill('not the password')
  await page.getByRole('button', { name: 'Change the address' }).click()
  await expect(page.getByRole('alert')).toContainText('This is not your password')
  await page.getByLabel('Your password').fill(PASSWORD)
  await page.getByRole('button', { name: 'Change the address' }).click()
  await expect(page.getByText(`A letter to ${next} has the way`)).toBeVisible()
  await letterTo(page.request, emailOf(name), /^Your e-mail address is to be changed$/)
  await page.goto(linkIn(await letterTo(page.request, next, /^Confirm your e-mail address$/)))
  await page.getByRole('button', { name: 'Confirm the address' }).click()
  await expect(page.getByRole('heading', { name: 'Your address is confirmed' })).toBeVisible()
  await openAccountView(page)
  await expect(page.getByText(next)).toBeVisible()
  await page.getByRole('button', { name: 'Change the password' }).click()
  await page.getByLabel('New password').fill('ash and celadon and iron')
  await page.getByLabel('Your password').fill(PASSWORD)
  await page.getByRole('button', { name: 'Change the password' }).click()
  await expect(page.getByText('Your password is changed')).toBeVisible()
  await letterTo(page.request, next, /^Your password was changed$/)
})

test('a sign-in from where somebody never was is told of in a letter', async ({ page }) => {
  const name = freshName('told')
  await startEmpty(page, name)
  await page.request.post('/api/sign-out')
  await page.setExtraHTTPHeaders({ 'X-Forwarded-For': '192.0.2.77' })
  await tryToSignIn(page, emailOf(name), PASSWORD)
  await expect(page.getByText('not published yet')).toBeVisible()
  const letter = await letterTo(page.request, emailOf(name), /^A new sign-in$/)
  expect(letter.text).toMatch(/Chrome on (Linux|Windows)/)
})
