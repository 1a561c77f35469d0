import { expect, test } from '@playwright/test'
import { blackPNG } from './support/files'
import { freshName, ILSE, paste, publish, row, startEmpty, titles } from './support/people'

test('an address that could harm a visitor is refused, and what was typed stays', async ({ page }) => {
  await startEmpty(page, freshName('careful'))
  const line = page.getByLabel('Paste an address to add a button')
  for (const address of ['javascript:alert(1)', 'data:text/html,x', 'file:///etc/passwd']) {
    await line.fill(address)
    await page.keyboard.press('Enter')
    await expect(page.getByRole('alert')).toContainText('https, http, mailto, tel or sms')
    await expect(line).toHaveValue(address)
  }
  expect(await titles(page)).toEqual([])

  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  await page
    .getByLabel('Paste an address to add a button')
    .fill('https://QUARROW.example/stockists?utm_source=card')
  await page.keyboard.press('Enter')
  await expect(page.getByText('“Where to find our pots: a map” leads to the same address')).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect.poll(() => titles(page)).toEqual(['Where to find our pots: a map'])

  await row(page, 'Where to find').locator('.piece').click()
  await page.getByLabel('Leads to').fill('javascript:alert(1)')
  await page.getByLabel('Title', { exact: true }).focus()
  await expect(page.getByRole('alert').filter({ hasText: 'still leads to where it did' })).toBeVisible()
  page.on('dialog', (asked) => void asked.accept()) // the browser asks before it leaves what is not saved
  await page.reload()
  await expect(page.getByText('and was not saved then is back')).toBeVisible()
  await expect(page.getByLabel('Leads to')).toHaveValue('javascript:alert(1)')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByLabel('Leads to')).toHaveValue('https://quarrow.example/stockists')
  await expect(page.getByRole('alert').filter({ hasText: 'still leads' })).toHaveCount(0)
})

test('a page address that is taken, reserved or malformed is refused at its field', async ({ page }) => {
  await page.goto('/sign-up')
  const email = `${freshName('x')}@quarrow.example`
  await page.getByLabel('E-mail address').fill(email)
  for (const [address, says] of [
    ['quarrow-clay', 'is taken'],
    ['admin', 'kept for the service'],
    ['-x-', 'single hyphens inside'],
    ['ab', 'at least 3'],
  ] as const) {
    await page.getByLabel('Page address').fill(address)
    await page.getByRole('button', { name: 'Send me the link' }).click()
    await expect(page.getByRole('alert')).toContainText(says)
  }
  await expect(page.getByLabel('E-mail address')).toHaveValue(email)
})

test('nothing tells whether an e-mail address is registered', async ({ page }) => {
  const messages: (string | null)[] = []
  for (const email of [ILSE.email, 'nobody@quarrow.example']) {
    await page.goto('/sign-in')
    await page.getByLabel('E-mail address').fill(email)
    await page.getByLabel('Password').fill('not the password')
    await page.getByRole('button', { name: 'Sign in', exact: true }).click()
    messages.push(await page.getByRole('alert').textContent())
  }
  expect(messages[0]).toBe(messages[1])
})

test('a stale write is not made; what both tabs added and changed comes together', async ({
  browser,
  page,
}) => {
  const address = freshName('two-hands')
  await startEmpty(page, address)
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  const storageState = await page.context().storageState()
  const elsewhere = await browser.newContext({ storageState, baseURL: new URL(page.url()).origin })
  const other = await elsewhere.newPage()
  await other.goto(page.url())
  await paste(other, 'https://tips.example/kiln-fund', 'A tip for the kiln fund')
  await expect(other.getByRole('status').first()).not.toContainText('saving')

  const rename = async (to: string) => {
    await page.locator('.rows li').first().focus()
    await page.keyboard.press('F2')
    await page.getByRole('textbox', { name: 'Title' }).fill(to)
    await page.keyboard.press('Enter')
  }
  await rename('Shops')
  await expect.poll(() => titles(page)).toEqual(['Shops', 'A tip for the kiln fund'])
  expect(await page.getByRole('alert').allTextContents(), 'different rows meet without a question').toEqual(
    [],
  )
  expect(await publish(page)).toEqual(['The page goes live for the first time, with 2 blocks.'])
  await elsewhere.close()
})

test('a change made while the studio cannot be reached is kept and saved later', async ({
  context,
  page,
}) => {
  await startEmpty(page, freshName('offline'))
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  await context.setOffline(true)
  await page.locator('.rows li').first().focus()
  await page.keyboard.press('h')
  await expect(page.getByRole('alert')).toContainText('Nothing you typed is lost')
  await context.setOffline(false)
  await expect(page.getByRole('alert')).toHaveCount(0)
  await page.reload()
  await expect(row(page, 'Hidden: Where to find')).toBeVisible()
})

test('a file that cannot be the picture says why, and a good one is cut to a circle', async ({ page }) => {
  await startEmpty(page, freshName('portrait'))
  await page.getByRole('button', { name: 'Edit name, line and picture' }).click()
  const choose = (name: string, buffer: Buffer) =>
    page.getByLabel('Picture: file').setInputFiles({ name, mimeType: 'image/png', buffer })
  for (const [name, buffer, says] of [
    ['letter.png', Buffer.from('Dear Ilse'), 'not a picture'],
    ['heavy.png', Buffer.alloc(10 * 1024 * 1024), 'not a picture'],
  ] as const) {
    await choose(name, buffer)
    await expect(page.getByRole('alert').filter({ hasText: says })).toBeVisible()
  }

  // What is larger than the server takes is made smaller by the browser.
  await choose('huge.png', blackPNG(6_000, 5_000))
  await expect(page.locator('.vue-circle-stencil')).toBeVisible()
  await page.getByRole('button', { name: 'Cancel' }).click()

  await choose('portrait.png', blackPNG(600, 400))
  await expect(page.locator('.vue-circle-stencil')).toBeVisible()
  await page.getByRole('button', { name: 'Use this cut' }).click()
  await expect(page.locator('.piece.top img.portrait')).toBeVisible()
  await expect(page.getByAltText('Picture at the top of the page')).toBeVisible()
})
