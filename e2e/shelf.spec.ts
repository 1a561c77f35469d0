import { expect, test, type Page } from '@playwright/test'
import { settled } from './support/lines'
import { freshName, paste, phoneVisitor, publish, row, startEmpty } from './support/people'
import { PUBLIC } from './support/places'

const STOCKISTS = 'Where to find our pots: a map'
const host = PUBLIC.replace('http://', '')

async function shelf(page: Page, stem: string) {
  await startEmpty(page, freshName(stem))
  await page.getByRole('link', { name: 'Shelf' }).click()
  await expect(page.getByText('No short links yet')).toBeVisible()
}

async function shorten(page: Page, destination: string, address = '') {
  await page.getByLabel('Leads to', { exact: true }).fill(destination)
  await page.getByLabel('Short address').fill(address)
  await page.getByRole('button', { name: 'Make a short link' }).click()
  await expect(panel(page)).toBeVisible()
}

const panel = (page: Page) => page.getByRole('complementary', { name: /^Short link/ })
const saved = async (page: Page) => expect(panel(page).getByRole('status')).not.toHaveText('saving')

test('a short link is made, pressed on a phone, seen to arrive, and led elsewhere', async ({
  browser,
  page,
}) => {
  await shelf(page, 'shorten')
  const name = freshName('fire')
  await shorten(page, 'quarrow.example/stockists', name)
  await expect(panel(page).getByText(`${host}/${name}`)).toBeVisible()
  await expect(panel(page).getByRole('heading', { level: 2 }).first()).toHaveText(/Where to find our pots/)
  await expect(panel(page).getByText('Open the address once on your phone')).toBeVisible()

  const visitor = await phoneVisitor(browser)
  await visitor.goto(`${PUBLIC}/${name}?utm_source=Studio+Letter`)
  await expect(visitor).toHaveTitle(/Where to find our pots/)
  await expect(panel(page).getByText('1 click in 28 days')).toBeVisible()
  await expect(panel(page).getByText('studio_letter')).toBeVisible()
  await expect(page.getByRole('listitem').filter({ hasText: name })).toContainText('1 click')

  await panel(page).getByLabel('Destination').fill('javascript:alert(1)')
  await panel(page).getByLabel('Destination').press('Tab')
  await expect(panel(page).getByRole('alert')).toContainText('cannot be linked')
  await expect(panel(page).getByLabel('Destination')).toHaveValue('javascript:alert(1)')
  await panel(page).getByLabel('Destination').fill('https://quarrow.example/glazes')
  await panel(page).getByLabel('Destination').press('Tab')
  await expect(panel(page).getByRole('alert')).toHaveCount(0)
  await expect(page.getByRole('listitem').filter({ hasText: name })).toContainText('quarrow.example/glazes')
  await visitor.goto(`${PUBLIC}/${name}`)
  expect(visitor.url()).toContain('glazes')
  await visitor.context().close()
})

test('its address changes and the old one goes on leading there', async ({ page, request }) => {
  await shelf(page, 'readdress')
  const [before, after] = [freshName('spring'), freshName('summer')]
  await shorten(page, 'https://quarrow.example/stockists', before)
  await page.getByRole('button', { name: 'Change the address' }).click()
  await page.locator('#panel-address').fill('quarrow-clay')
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(panel(page).getByRole('alert')).toContainText('is taken')
  await page.locator('#panel-address').fill(after)
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(panel(page).getByText(`${before} still leads here too`)).toBeVisible()
  for (const address of [before, after]) {
    const answer = await request.get(`${PUBLIC}/${address}`, { maxRedirects: 0 })
    expect(answer.status()).toBe(302)
    expect(answer.headers()['cache-control']).toBe('no-store')
  }
})

test('it begins and ends by itself, leads to its fallback, and is switched off', async ({
  page,
  request,
}) => {
  await shelf(page, 'windows')
  const name = freshName('sale')
  await shorten(page, 'https://quarrow.example/stockists', name)
  const open = () => request.get(`${PUBLIC}/${name}`, { maxRedirects: 0 })

  await panel(page).getByRole('button', { name: 'Window', exact: true }).click()
  await panel(page).getByLabel('from').fill('2020-01-01T08:00')
  await panel(page).getByLabel('until').fill('2019-12-01T08:00')
  await expect(panel(page).getByRole('alert')).toContainText('ends before it begins')
  await panel(page).getByLabel('until').fill('2020-02-01T08:00')
  await expect(panel(page).getByRole('status')).toHaveText('over')
  await expect.poll(async () => (await open()).status()).toBe(404)
  expect(await (await open()).text()).toContain('This is over')

  await panel(page).getByLabel('Where it leads at other times').fill('https://quarrow.example/glazes')
  await panel(page).getByLabel('Where it leads at other times').press('Tab')
  await expect.poll(async () => (await open()).headers()['location']).toContain('glazes')

  await panel(page).getByRole('button', { name: 'Take window 1 away' }).click()
  await expect(panel(page).getByRole('status')).toHaveText('in force')
  await expect.poll(async () => (await open()).headers()['location']).toContain('stockists')
  await panel(page).getByLabel('Switched on').click()
  await expect(panel(page).getByRole('status')).toHaveText('switched off')
  await expect.poll(async () => (await open()).headers()['location']).toContain('glazes')
})

test('what is said of it for posts and for the Shelf stays', async ({ page }) => {
  await shelf(page, 'preview')
  const name = freshName('film')
  await shorten(page, 'https://quarrow.example/stockists', name)
  await panel(page).getByLabel('Title').fill('Forty hours of fire')
  await panel(page).getByLabel('Labels').fill('#film, letter')
  await panel(page).getByLabel('Note').fill('For the winter card')
  await panel(page).getByLabel('Note').press('Tab')
  await saved(page)
  await expect(
    page.getByRole('listitem').filter({ hasText: name }).getByText('film', { exact: true }),
  ).toBeVisible()
  await page.reload()
  await expect(panel(page).getByLabel('Note')).toHaveValue('For the winter card')
  await expect(panel(page).getByLabel('Title')).toHaveValue('Forty hours of fire')
})

test('many are made from a list, what is wrong is said by row, and the list comes out again', async ({
  page,
}) => {
  await shelf(page, 'list')
  const [one, two] = [freshName('one'), freshName('two')]
  await page.getByRole('button', { name: 'From a list' }).click()
  await page
    .getByLabel('One a line')
    .fill(
      `quarrow.example/stockists, ${one}, Stockists, map\nquarrow.example/glazes, ${two}\nfile:///etc/hosts\nquarrow.example/dates`,
    )
  await page.getByRole('button', { name: 'Read the list' }).click()
  await expect(page.getByRole('row', { name: /file:\/\/\/etc\/hosts/ })).toContainText('cannot be linked')
  await page.getByRole('button', { name: 'Make 3 short links' }).click()
  await expect(page.getByText('3 short links made')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('list', { name: 'Short links' }).getByRole('listitem')).toHaveCount(3)
  const list = await page.request.get(
    new URL((await page.getByRole('link', { name: 'All as a list' }).getAttribute('href'))!, page.url()).href,
  )
  expect(await list.text()).toContain(`https://quarrow.example/stockists,${one},Stockists,map,`)
})

test('a tagged address becomes a short link, and its figures are shown to somebody', async ({
  browser,
  page,
}) => {
  await shelf(page, 'tagged-short')
  await page.getByLabel('Destination').fill('quarrow.example/stockists')
  await page.getByLabel('Source').fill('Studio Letter')
  await page.getByRole('button', { name: 'Make a short link of it' }).click()
  await expect(page.getByLabel('Leads to', { exact: true })).toHaveValue(
    'https://quarrow.example/stockists?utm_source=studio_letter',
  )
  await page.getByRole('button', { name: 'Make a short link', exact: true }).click()
  await panel(page).getByLabel('Whom it is for').fill('The gallery')
  await panel(page).getByRole('button', { name: 'Make an address' }).click()
  const address = await panel(page).getByText('/-/figures/').textContent()
  const gallery = await (await browser.newContext()).newPage()
  await gallery.goto(address!.trim())
  await expect(gallery.getByRole('heading', { name: 'Where from' })).toBeVisible()
  await panel(page).getByRole('button', { name: 'Close the address for The gallery' }).click()
  await expect.poll(async () => (await gallery.reload())?.status()).toBe(404)
  await gallery.context().close()
})

test('a destination is changed once, and all that leads there follows', async ({ browser, page }) => {
  const name = freshName('kept-once')
  await startEmpty(page, name)
  await paste(page, 'https://quarrow.example/stockists', STOCKISTS)
  await row(page, STOCKISTS).focus()
  await page.keyboard.press('d')
  await expect(page.getByRole('listitem', { name: STOCKISTS })).toHaveCount(2)
  await settled(page)
  await publish(page)
  await page.getByRole('link', { name: 'Shelf', exact: true }).click()
  await page.getByRole('link', { name: 'Destinations', exact: true }).click()
  await page.getByRole('link', { name: STOCKISTS }).click()
  const panel = page.getByRole('complementary', { name: 'Destination' })
  await expect(panel.getByText('2 places')).toBeVisible()
  await panel.getByLabel('Leads to').fill('https://quarrow.example/kiln-openings')
  await expect(panel.getByText('This changes 2 places on 1 page, at once.')).toBeVisible()
  await panel.getByRole('button', { name: 'Keep' }).click()
  await expect(panel.getByRole('heading', { name: 'Where it led' })).toBeVisible()
  const visitor = await phoneVisitor(browser)
  for (const at of [0, 1]) {
    await visitor.goto(`${PUBLIC}/${name}`)
    await visitor.getByRole('link', { name: STOCKISTS }).nth(at).click()
    await expect(visitor.getByRole('heading', { name: 'Kiln opening dates' })).toBeVisible()
  }
  await visitor.context().close()
  await page.getByPlaceholder('Find by address, title, note or label').fill('nothing like it')
  await expect(page.getByText('None of your destinations has that.')).toBeVisible()
})
