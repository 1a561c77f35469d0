import { expect, test, type Page } from '@playwright/test'
import { freshName, publish, row, startEmpty } from './support/people'
import { PUBLIC, STANDINS } from './support/places'
import { PHONE } from './support/sizes'

const drawer = (page: Page) => page.getByRole('complementary')

test('what a feed has comes onto the page by itself, each item with its own figures', async ({
  page,
  browser,
}) => {
  const address = freshName('notes')
  const entry = 'Shino, at last'
  await startEmpty(page, address)
  const line = page.getByLabel('Paste an address to add')
  await line.fill(`https://notes.quarrow.example/${address}/feed.xml`)
  await line.press('Enter')
  const feed = row(page, 'Quarrow notes')
  await expect(feed.locator('.fragment .feed li')).toHaveCount(3)
  await expect(feed.locator('.fragment img').first()).toBeAttached()
  await publish(page)

  const phone = await browser.newContext(PHONE)
  const visitor = await phone.newPage()
  const asked: string[] = []
  visitor.on('request', (request) => asked.push(new URL(request.url()).origin))
  await visitor.goto(`${PUBLIC}/${address}`, { waitUntil: 'networkidle' })
  expect(new Set(asked), 'nothing comes from where the feed is').toEqual(new Set([PUBLIC]))
  const items = visitor.getByRole('main').getByRole('link')
  const before = await items.allTextContents()
  expect(before).toHaveLength(3)
  const last = await items.nth(2).getAttribute('href')
  await items.nth(2).click()
  await expect(visitor.getByText('notes.quarrow.example/')).toBeVisible()

  await test.step('a new entry comes, the oldest scrolls off and still leads on', async () => {
    await visitor.request.post(`${STANDINS}/notes`, { form: { title: entry, journal: address } })
    await feed.locator('.fragment').click()
    await drawer(page).getByRole('button', { name: 'Ask it now' }).click()
    await expect(drawer(page).getByText(entry)).toBeVisible()
    await expect
      .poll(async () => {
        await visitor.goto(`${PUBLIC}/${address}`)
        return items.allTextContents()
      })
      .toEqual([entry, ...before.slice(0, 2)])
    const led = await visitor.request.get(PUBLIC + last, { maxRedirects: 0 })
    expect(led.headers().location).toContain('/web/notes.quarrow.example/')
  })
  await phone.close()

  await test.step('an item is pinned as a block of its own', async () => {
    await drawer(page)
      .getByRole('button', { name: `Pin “${entry}”` })
      .click()
    await expect(page.locator('.rows > li')).toHaveCount(2)
    await expect(row(page, entry).first().locator('.fragment .card img')).toBeAttached()
  })
  await test.step('each item has its figures, and keeps them', async () => {
    await drawer(page).getByRole('button', { name: 'Close the editor' }).click()
    await page.getByRole('link', { name: 'Readings' }).first().click()
    await page.getByRole('button', { name: /^its 5 links/ }).click()
    await expect(page.getByRole('row', { name: before[2] })).toContainText('1')
  })
})

test('where there is no feed, that is said', async ({ page }) => {
  await startEmpty(page, freshName('no-feed'))
  await page.getByRole('button', { name: 'Add a block' }).click()
  await page.getByRole('menuitem', { name: 'Feed', exact: true }).click()
  await drawer(page).getByLabel('Address of the feed').fill('quarrow.example/kiln-openings')
  await drawer(page).getByRole('button', { name: 'Look for the feed' }).click()
  await expect(
    page.getByText('There is no feed here, and no page that names one. Nothing was changed.'),
  ).toBeVisible()
})
