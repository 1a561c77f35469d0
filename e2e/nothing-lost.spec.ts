import { expect, test, type Page } from '@playwright/test'
import { endSession, saved, settled, slowDown } from './support/lines'
import { addPage, freshName, PASSWORD, paste, row, startEmpty, titles } from './support/people'
import { STUDIO } from './support/places'

const STOCKISTS = 'Where to find our pots: a map'
const desktop = { viewport: { width: 1280, height: 800 } }
const phone = { viewport: { width: 390, height: 844 }, hasTouch: true }

/** A creator whose page has a button, and whose line is as bad as it is said to be. */
async function begin(page: Page, latency = 0) {
  await startEmpty(page, freshName('kept'))
  await paste(page, 'https://quarrow.example/stockists', STOCKISTS)
  await settled(page)
  if (latency) await slowDown(page, latency)
}

const addressOf = async (page: Page) => (await saved(page)).blocks[0]?.button?.address
const openFirst = (page: Page) => page.locator('.rows li .piece').first().click()
const notice = (page: Page, text: string | RegExp) => page.locator('.notices').getByText(text)

for (const [size, screen] of [
  ['a desktop', desktop],
  ['a phone', phone],
] as const)
  for (const latency of [150, 3_000])
    test.describe(`on ${size}, with answers that take ${latency} ms more`, () => {
      test.use(screen)

      test('a new destination is kept however the editor is left', async ({ page }) => {
        await begin(page, latency)
        const ways: [string, () => Promise<void>][] = [
          ['escape', () => page.keyboard.press('Escape')],
          ['close', () => page.getByRole('button', { name: 'Close the editor' }).click()],
          ...(size === 'a desktop'
            ? [
                ['view', () => page.getByRole('link', { name: 'Look' }).click()] as [
                  string,
                  () => Promise<void>,
                ],
              ]
            : []),
        ]
        for (const [way, leave] of ways) {
          await openFirst(page)
          await page.getByLabel('Leads to').fill(`kiln.example/${way}`)
          await leave()
          await expect.poll(() => addressOf(page), { timeout: 30_000 }).toBe(`https://kiln.example/${way}`)
        }
        await page.getByRole('link', { name: 'Arrange' }).click()
        await page.getByRole('button', { name: 'Edit the end of the page' }).click()
        await page.getByRole('button', { name: 'Add a small link' }).click()
        await page.getByLabel('Leads to').fill('kiln.example/small-print')
        await page.keyboard.press('Escape')
        const footer = async () => (await saved(page)).footer.links[0]?.address
        await expect.poll(footer, { timeout: 30_000 }).toBe('https://kiln.example/small-print')
      })

      test('a page that is left while it is saved is saved to the end', async ({ page }) => {
        await begin(page)
        const first = page.url()
        await addPage(page, freshName('second'))
        await paste(page, 'https://tips.example/kiln-fund', 'A tip for the kiln fund')
        await settled(page)
        await slowDown(page, latency)
        await openFirst(page)
        await page.getByLabel('Title', { exact: true }).fill('A tip')
        await page.getByLabel('Title', { exact: true }).pressSequentially(' for the fund, please')
        await page.keyboard.press('Escape')
        await page.getByRole('combobox', { name: 'Page' }).click()
        await page.getByRole('option').first().click()
        await expect(row(page, STOCKISTS)).toBeVisible({ timeout: 30_000 })
        expect(page.url()).toContain(first.split('/')[4])
        await page.getByRole('combobox', { name: 'Page' }).click()
        await page.getByRole('option').last().click()
        await expect(row(page, 'A tip for the fund, please')).toBeVisible({ timeout: 30_000 })
        await expect
          .poll(async () => (await saved(page)).blocks[0]?.button?.title, { timeout: 30_000 })
          .toBe('A tip for the fund, please')
      })
    })

test('several pasted lines can be hidden, deleted and saved at once', async ({ page }) => {
  await begin(page, 150)
  const faults: Error[] = []
  page.on('pageerror', (fault) => faults.push(fault))
  await page.getByLabel('Paste an address to add a button').evaluate((line) => {
    const text = new DataTransfer()
    text.setData('text', 'https://quarrow.example/kiln-openings\nhttps://tips.example/kiln-fund')
    line.dispatchEvent(new ClipboardEvent('paste', { clipboardData: text, bubbles: true, cancelable: true }))
  })
  await page.getByRole('button', { name: 'Add 2 blocks' }).click()
  await page.locator('.rows li').nth(1).focus()
  await page.keyboard.press('h')
  await page.locator('.rows li').nth(2).focus()
  await page.keyboard.press('Delete')
  await expect.poll(() => titles(page)).toHaveLength(2)
  await expect.poll(() => titles(page), 'its title has come from the site').toContain('Kiln opening dates')
  await settled(page)
  expect((await saved(page)).blocks.map(({ shown }) => shown)).toEqual([true, false])
  expect(faults).toEqual([])
})

test('a page is chosen offline, and what was typed into another waits until the line is back', async ({
  page,
}) => {
  await begin(page)
  const first = page.url()
  await addPage(page, freshName('second'))
  await page.reload() // only this page is known to the tab
  await expect(page.getByText('No buttons yet')).toBeVisible()
  await page.context().setOffline(true)
  await page.getByRole('button', { name: 'Edit name, line and picture' }).click()
  await page.getByLabel('Name', { exact: true }).fill('Typed offline')
  await page.keyboard.press('Escape')
  await expect(page.getByText('not saved yet')).toBeVisible()
  await page.getByRole('combobox', { name: 'Page' }).click()
  await page.getByRole('option').first().click()
  await expect(page.getByRole('main').getByText('The page opens as soon as it can be')).toBeVisible()
  expect(page.url()).toBe(first)
  await page.context().setOffline(false)
  await expect(row(page, STOCKISTS)).toBeVisible()
  await page.goBack()
  await expect(page.locator('.piece.top .fragment')).toContainText('Typed offline')
  await settled(page)
  expect((await saved(page)).header.name).toBe('Typed offline')
})

for (const [size, screen] of [
  ['a desktop', desktop],
  ['a phone', phone],
] as const)
  test.describe(`on ${size}`, () => {
    test.use(screen)

    test('whoever is signed out while typing signs in where they are, and goes on', async ({ page }) => {
      await begin(page)
      await openFirst(page)
      await endSession(page)
      await page.getByLabel('Title', { exact: true }).fill('Typed after the end')
      const again = page.getByRole('dialog', { name: 'Your session has ended' })
      await expect(again).toContainText('What you typed is still here')
      await again.getByLabel('Password').fill('not this one')
      await again.getByRole('button', { name: 'Sign in', exact: true }).click()
      await expect(again.getByRole('alert')).toBeVisible()
      await again.getByLabel('Password').fill(PASSWORD)
      await again.getByRole('button', { name: 'Sign in', exact: true }).click()
      await expect(again).toHaveCount(0)
      await expect(page.getByLabel('Title', { exact: true })).toHaveValue('Typed after the end')
      await settled(page)
      expect((await saved(page)).blocks[0]?.button?.title).toBe('Typed after the end')
    })
  })

test('what was typed after the session had ended comes back to whoever signs in after a reload', async ({
  page,
}) => {
  const name = freshName('came-back')
  await startEmpty(page, name)
  await paste(page, 'https://quarrow.example/stockists', STOCKISTS)
  await settled(page)
  await endSession(page)
  await openFirst(page)
  await page.getByLabel('Leads to').fill('kiln.example/new')
  await expect(page.getByRole('dialog', { name: 'Your session has ended' })).toBeVisible()
  page.on('dialog', (asked) => void asked.accept())
  await page.reload()
  await expect(page.getByText('What you typed and was not saved is kept in this browser')).toBeVisible()
  await page.getByLabel('E-mail address').fill(`${name}@quarrow.example`)
  await page.getByLabel('Password').fill(PASSWORD)
  await page.getByRole('button', { name: 'Sign in', exact: true }).click()
  await expect(notice(page, 'and was not saved then is back')).toBeVisible()
  await settled(page)
  expect(await addressOf(page)).toBe('https://kiln.example/new')
})

test('one field that cannot be saved is marked, and all else is saved', async ({ page }) => {
  await begin(page)
  await page.getByRole('button', { name: 'Add a block' }).click()
  await page.getByRole('menuitem', { name: 'Contact' }).click()
  await page.getByRole('complementary').getByRole('combobox', { name: 'By' }).click()
  await page.getByRole('option', { name: 'A call' }).click()
  await page.getByLabel('Number, with country code').fill('abc')
  await page.getByLabel('Title', { exact: true }).fill('Call the studio')
  await expect(page.getByRole('complementary').getByRole('alert')).toContainText('not a phone number')
  await expect(page.getByLabel('Number, with country code')).toHaveAttribute('aria-invalid', 'true')
  await expect(notice(page, 'All else is saved')).toBeVisible()
  const contact = async () => (await saved(page)).blocks[1]?.contact
  await expect.poll(async () => (await contact())?.title).toBe('Call the studio')
  await page.getByLabel('Number, with country code').fill('+44 20 7946 0018')
  await settled(page)
  expect((await contact())?.number).toBe('+44 20 7946 0018')
})

test('the 101st block and the 17th icon are not added, and that is said before', async ({ page }) => {
  await begin(page)
  const id = /pages\/([^/]+)/.exec(page.url())![1]
  const state = await (await page.request.get(`/api/pages/${id}`)).json()
  for (let n = state.document.blocks.length; n < 100; n++)
    state.document.blocks.push({ key: `block${n}`, kind: 'divider', shown: true, divider: { line: 'plain' } })
  for (let n = 0; n < 16; n++)
    state.document.icons.items.push({
      key: `icon${n}`,
      icon: { set: 'signs', name: 'link' },
      name: `Profile ${n}`,
      address: 'https://photoloft.example/',
    })
  const body = { revision: state.revision, document: state.document }
  const answer = await page.request.put(`/api/pages/${id}/draft`, { data: body, headers: { Origin: STUDIO } })
  expect(answer.status()).toBe(200)
  await page.reload()
  await expect(page.locator('.rows li')).toHaveCount(100)
  const line = page.getByLabel('Paste an address to add a button')
  await line.fill('https://tips.example/kiln-fund')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('alert').filter({ hasText: 'A page holds at most 100 blocks' })).toBeVisible()
  await expect(line).toHaveValue('https://tips.example/kiln-fund')
  await page.locator('.rows li').first().focus()
  await page.keyboard.press('d')
  await expect(page.getByText('This one is full; nothing was added.').last()).toBeVisible()
  await expect(page.locator('.rows li')).toHaveCount(100)
  await page.getByRole('button', { name: 'Edit the profile icons' }).click()
  await page.getByLabel('Address of a profile').fill('https://photoloft.example/quarrow')
  await page.getByRole('button', { name: 'Add', exact: true }).click()
  await expect(page.getByRole('alert').filter({ hasText: 'There are 16 already' })).toBeVisible()
  await page.getByLabel('Called').first().fill('Renamed all the same')
  await settled(page)
  expect((await saved(page)).icons.items[0]?.name).toBe('Renamed all the same')
})

test('two tabs change the same title, and whoever is second chooses in every view', async ({ page }) => {
  await begin(page)
  const other = await page.context().newPage()
  await other.goto(page.url())
  await expect(row(other, STOCKISTS)).toBeVisible()
  await openFirst(other)
  await other.getByLabel('Title', { exact: true }).fill('Shops')
  await other.getByLabel('Second line').fill('Six of them')
  await other.keyboard.press('Escape')
  await other.getByRole('button', { name: 'Edit name, line and picture' }).click()
  await other.getByLabel('Name', { exact: true }).fill('River Kiln')
  await settled(other)
  await openFirst(page)
  await page.getByLabel('Title', { exact: true }).fill('Stockists')
  const choice = page.getByRole('alert', { name: 'Changed here and elsewhere' })
  await expect(choice.getByRole('row', { name: '“Stockists”, title' })).toContainText('“Shops”')
  await page.keyboard.press('Escape')
  await page.getByRole('link', { name: 'Readings' }).click()
  await expect(choice).toBeVisible()
  await page.reload()
  await expect(choice, 'and outlives a reload').toBeVisible()
  await page.getByRole('link', { name: 'Arrange' }).click()
  await openFirst(page)
  await page.getByRole('button', { name: 'Close the editor' }).click() // it is not under the question
  await choice.getByRole('button', { name: 'Keep what is on my screen' }).click()
  await settled(page)
  const kept = await saved(page)
  expect([kept.blocks[0]?.button?.title, kept.header.name]).toEqual(['Stockists', 'River Kiln'])
  expect(kept.blocks[0]?.button?.line, 'what only one side changed').toBe('Six of them')

  await other.bringToFront()
  await other.evaluate(() => window.dispatchEvent(new Event('focus')))
  await expect(row(other, 'Stockists'), 'the other tab learns of it when it is looked at').toBeVisible()
})

test('on the Shelf what is typed while a save runs is kept, and one bad field stops no other', async ({
  page,
}) => {
  await begin(page)
  await page.getByRole('link', { name: 'Shelf' }).click()
  for (const to of ['kiln.example/one', 'kiln.example/two']) {
    await page.getByRole('form', { name: 'New short link' }).getByLabel('Leads to').fill(to)
    await page.keyboard.press('Enter')
    await expect(page.getByRole('complementary')).toBeVisible()
    await page.getByRole('button', { name: 'Close the short link' }).click()
  }
  await slowDown(page, 1_000)
  const panel = page.getByRole('complementary')
  const links = page.getByRole('link', { name: /^127\.0\.0\.1/ })
  await links.first().click()
  await panel.getByLabel('Destination').fill('javascript:alert(1)')
  await panel.getByLabel('Name', { exact: true }).fill('Spring')
  await page.getByLabel('Note').fill('typed while it was saved')
  await page.getByLabel('Note').pressSequentially(', and more')
  await expect(page.getByRole('complementary').getByRole('alert').first()).toBeVisible({ timeout: 20_000 })
  await links.nth(1).click()
  await expect(page.getByLabel('Note')).toHaveValue('')
  await links.first().click()
  await expect(page.getByLabel('Note')).toHaveValue('typed while it was saved, and more')
  await expect(panel.getByLabel('Destination')).toHaveValue('javascript:alert(1)')
  await expect
    .poll(
      async () => {
        const listed = (await (await page.request.get('/api/short-links')).json()) as {
          link: { note: string; name: string }
        }[]
        return listed.map(({ link }) => [link.name, link.note])
      },
      { timeout: 20_000 },
    )
    .toContainEqual(['Spring', 'typed while it was saved, and more'])
})
