import { expect, test } from '@playwright/test'
import { settled } from './support/lines'
import {
  addPage,
  freshName,
  paste,
  phoneVisitor,
  publish,
  row,
  signIn,
  startEmpty,
  titles,
  ILSE,
} from './support/people'
import { PUBLIC, STUDIO } from './support/places'

test('a source is renamed, gets another tag and is retired, and its old address goes on working', async ({
  browser,
  page,
}) => {
  const address = freshName('long-life')
  await startEmpty(page, address)
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  await publish(page)
  await page.getByRole('link', { name: 'Sources' }).click()
  await page.getByLabel('Another place').fill('Printed card')
  await page.getByRole('button', { name: 'Add source' }).click()
  await page.getByLabel('Another place').fill('Studio letter')
  await page.getByRole('button', { name: 'Add source' }).click()

  await page.getByRole('button', { name: 'Change Printed card' }).click()
  await page.getByLabel('Name', { exact: true }).fill('Card at the fair')
  await page.getByLabel('Tag', { exact: true }).fill('studio-letter')
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(page.getByText('belongs to another source')).toBeVisible()
  await page.getByLabel('Tag', { exact: true }).fill('fair')
  await page.getByRole('button', { name: 'Keep' }).click()
  const card = page.getByRole('row', { name: 'Card at the fair' })
  await expect(card).toContainText(`${address}/fair`)
  await expect(card).toContainText('Earlier tags still work: printed-card')

  const visitor = await phoneVisitor(browser)
  await visitor.goto(`${PUBLIC}/${address}/printed-card`)
  await expect(visitor.getByRole('link', { name: 'Where to find our pots' })).toHaveAttribute(
    'href',
    /printed-card$/,
  )
  await expect(card).toContainText('seen ')
  await visitor.context().close()

  await page.getByRole('button', { name: 'Retire Card at the fair' }).click()
  await expect(card).toBeHidden()
  const retired = page
    .getByRole('alert')
    .filter({ hasText: 'is retired. Its address still leads to the page.' })
  await retired.getByRole('button', { name: 'Undo' }).click()
  await expect(card).toBeVisible()
  await page.getByRole('button', { name: 'Retire Card at the fair' }).click()
  await expect(card).toBeHidden()
  await page.getByText('1 retired').click()
  await expect(card).toBeVisible()
  await page.getByRole('button', { name: 'Take back Card at the fair' }).click()
  await expect(page.getByText('1 retired')).toHaveCount(0)
})

test('the page moves to another address, and the old one leads there', async ({ browser, page }) => {
  const [before, after] = [freshName('old-name'), freshName('new-name')]
  await startEmpty(page, before)
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  await publish(page)
  await page.getByRole('link', { name: 'About this page' }).click()
  const field = page.getByLabel(`${PUBLIC}/`)
  await field.fill('quarrow-clay')
  await page.getByRole('button', { name: 'Change address' }).click()
  await expect(page.getByRole('alert').filter({ hasText: 'is taken' })).toBeVisible()
  await field.fill(after)
  await page.getByRole('button', { name: 'Change address' }).click()
  await expect(page.getByText(`${PUBLIC.slice(7)}/${after}`)).toBeVisible()

  const visitor = await phoneVisitor(browser)
  await visitor.goto(`${PUBLIC}/${before}`)
  expect(visitor.url()).toBe(`${PUBLIC}/${after}`)
  await visitor.context().close()
})

test('a second page is made and switched to, and each keeps its own buttons and undo', async ({ page }) => {
  await startEmpty(page, freshName('first-page'))
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  await addPage(page, freshName('second-page'))
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled()
  await paste(page, 'https://tips.example/kiln-fund', 'A tip for the kiln fund')

  await page.getByRole('combobox', { name: 'Page' }).click()
  await page.getByRole('option').first().click()
  await expect(row(page, 'Where to find our pots')).toBeVisible()
  await expect.poll(() => titles(page)).toEqual(['Where to find our pots: a map'])
})

test('what was done is undone after a reload, and from another device', async ({ browser, page }) => {
  await startEmpty(page, freshName('undone'))
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  await paste(page, 'https://tips.example/kiln-fund', 'A tip for the kiln fund')
  await row(page, 'A tip for the kiln fund').focus()
  await page.keyboard.press('h')
  await row(page, 'A tip for the kiln fund').focus()
  await page.keyboard.press('Alt+ArrowUp')
  await settled(page)

  await page.reload()
  const undo = page.getByRole('button', { name: 'Undo' })
  await expect(undo).toBeEnabled()
  await undo.click()
  await expect.poll(() => titles(page)).toEqual(['Where to find our pots: a map', 'A tip for the kiln fund'])
  await settled(page)

  const phone = await browser.newContext({ storageState: await page.context().storageState() })
  const there = await phone.newPage()
  await there.goto(page.url())
  await there.getByRole('button', { name: 'Undo' }).click()
  await expect(row(there, 'A tip for the kiln fund')).not.toContainText('Hidden')
  await there.getByRole('button', { name: 'Undo' }).click()
  await expect.poll(() => titles(there)).toEqual(['Where to find our pots: a map'])
  await there.getByRole('button', { name: 'Redo' }).click()
  await expect.poll(() => titles(there)).toHaveLength(2)
  await settled(there)

  await page.reload()
  await page.getByRole('button', { name: 'Redo' }).click()
  await page.getByRole('button', { name: 'Redo' }).click()
  await expect.poll(() => titles(page)).toEqual(['A tip for the kiln fund', 'Where to find our pots: a map'])
  await expect(page.getByRole('button', { name: 'Redo' })).toBeDisabled()
  await phone.close()
})

test('whoever signs out leaves nothing for the next', async ({ page }) => {
  await signIn(page, ILSE)
  const address = page.url()
  await page.getByRole('button', { name: 'Sign out' }).click()
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible()
  await page.goBack()
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible()

  await startEmpty(page, freshName('next-one'))
  await page.goto(address)
  await expect(page.getByText('Begin with an empty page')).toBeVisible()
  expect(page.url(), 'a page of another workspace is not there; one’s own is opened').not.toBe(address)
  await page.goto(`${STUDIO}/sign-in`)
  await expect(page.getByText('Begin with an empty page')).toBeVisible()
})

test('on a phone a row is opened, renamed and hidden with the thumb', async ({ browser }) => {
  const context = await browser.newContext({
    viewport: { width: 390, height: 844 },
    hasTouch: true,
    baseURL: STUDIO,
  })
  const page = await context.newPage()
  await startEmpty(page, freshName('thumb'))
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  await row(page, 'Where to find').locator('.piece').tap()
  await page.getByLabel('Title', { exact: true }).fill('Shops')
  await page.getByLabel('Leads to').tap()
  await expect(row(page, 'Shops').locator('.fragment')).toContainText('Shops')
  await page.getByRole('button', { name: 'Hide', exact: true }).tap()
  await page.getByRole('button', { name: 'Close the editor' }).tap()
  await expect(row(page, 'Hidden: Shops')).toBeVisible()
  const strip = await page.locator('.piece.top').boundingBox()
  expect(strip!.x + strip!.width).toBeLessThanOrEqual(390)
  await context.close()
})

test('what is typed into the editor is kept when Escape closes it', async ({ page }) => {
  await startEmpty(page, freshName('escape'))
  await page.getByRole('button', { name: 'Edit name, line and picture' }).click()
  await page.getByLabel('Name', { exact: true }).fill('River Kiln')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('complementary')).toHaveCount(0)
  await expect(page.locator('.piece.top .fragment')).toContainText('River Kiln')
  await page.reload()
  await expect(page.locator('.piece.top .fragment')).toContainText('River Kiln')
})
