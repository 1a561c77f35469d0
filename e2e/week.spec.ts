import { expect, test, type Page } from '@playwright/test'
import { settled } from './support/lines'
import { freshName, paste, phoneVisitor, publish, row, startEmpty } from './support/people'
import { PUBLIC } from './support/places'
import { SIZES } from './support/sizes'

test.use(SIZES[1]!.options)

const POTS = 'Where to find our pots: a map'
const SALE = 'Seconds sale'

/** A date and time as a field of HTML has it, so many hours from now, by the clocks of this machine. */
function inHours(hours: number) {
  const at = new Date(Date.now() + hours * 3_600_000)
  return new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 16)
}

const editor = (page: Page) => page.getByRole('complementary')
const close = (page: Page) => editor(page).getByRole('button', { name: 'Close the editor' }).tap()
const open = (page: Page, title: string) => row(page, title).first().locator('.piece').tap()

test('a week of short visits on a phone: prepared, swapped, alone, put back, walked, undone', async ({
  browser,
  page,
}) => {
  const name = freshName('week')
  const visitor = await phoneVisitor(browser)
  const shown = async () => {
    await visitor.goto(`${PUBLIC}/${name}`)
    return visitor.getByRole('link').allTextContents()
  }
  await startEmpty(page, name)
  await paste(page, 'https://quarrow.example/stockists', POTS)

  await test.step('Monday: the sale is shared in from another app and prepared, hidden', async () => {
    await page.goto(`/share?text=${encodeURIComponent('Look: https://shop.quarrow.example/seconds')}`)
    await expect(page.getByLabel('Paste an address to add a button')).toBeFocused()
    await page.keyboard.press('Enter')
    await expect(row(page, SALE)).toBeVisible()
    if ((await row(page, SALE).locator('input').count()) > 0) await page.keyboard.press('Escape')
    await row(page, SALE)
      .getByRole('button', { name: `Hide “${SALE}”` })
      .tap()
    await open(page, SALE)
    await editor(page).getByText('When it shows, and to whom').tap()
    await editor(page).getByRole('button', { name: 'Let it begin by itself' }).tap()
    await settled(page)
    await close(page)
    await publish(page)
    await expect.poll(shown).toEqual([POTS])
  })

  await test.step('Tuesday: it begins, and the map stands on the page twice', async () => {
    await open(page, SALE)
    await editor(page).getByLabel('from', { exact: true }).fill(inHours(-2))
    await settled(page)
    await close(page)
    await open(page, POTS)
    await editor(page).getByRole('button', { name: 'Duplicate' }).tap()
    await expect(page.getByRole('listitem', { name: POTS })).toHaveCount(2)
    await settled(page)
    if (await editor(page).isVisible()) await close(page)
    await publish(page)
    await expect.poll(shown).toEqual([POTS, POTS, SALE])
  })

  await test.step('Wednesday: where both lead is swapped once', async () => {
    await page.getByRole('link', { name: 'Shelf', exact: true }).tap()
    await page.getByRole('link', { name: 'Destinations', exact: true }).tap()
    await page.getByRole('link', { name: POTS }).tap()
    const panel = page.getByRole('complementary', { name: 'Destination' })
    await panel.getByLabel('Leads to').fill('https://quarrow.example/kiln-openings')
    await expect(panel.getByText('This changes 2 places on 1 page, at once.')).toBeVisible()
    await panel.getByRole('button', { name: 'Keep' }).tap()
    await expect(panel.getByRole('heading', { name: 'Where it led' })).toBeVisible()
    for (const at of [0, 1]) {
      await shown()
      await visitor.getByRole('link', { name: POTS }).nth(at).click()
      await expect(visitor.getByRole('heading', { name: 'Kiln opening dates' })).toBeVisible()
    }
  })

  await test.step('Thursday: the sale stands alone for a day, and is put back', async () => {
    await page.getByRole('link', { name: 'Arrange', exact: true }).tap()
    await open(page, SALE)
    await editor(page).getByText('Solo: alone for a while').tap()
    await editor(page).getByRole('button', { name: 'Let it stand alone' }).tap()
    const alone = page.getByRole('list', { name: 'What takes the place of the page' })
    await expect(alone).toContainText(`“${SALE}” stands alone since`)
    await close(page)
    await expect.poll(shown).toEqual([SALE])
    await alone.getByRole('button', { name: 'Put the page back' }).tap()
    await expect(alone).toHaveCount(0)
    await expect.poll(shown).toEqual([POTS, POTS, SALE])
  })

  await test.step('Friday: all addresses are walked', async () => {
    await page.getByRole('link', { name: 'Check', exact: true }).tap()
    await page.getByRole('link', { name: 'Walk them all' }).tap()
    for (const at of [1, 2, 3])
      await page
        .getByRole('region', { name: `${at} of 3` })
        .getByRole('button', { name: 'Right' })
        .tap()
    await expect(page.getByRole('heading', { name: 'All of them are right.' })).toBeVisible()
  })

  await test.step('Saturday: an old edition is put back', async () => {
    await page.getByRole('link', { name: /^live, edition/ }).tap()
    await page
      .getByRole('list', { name: 'Editions' })
      .getByRole('button', { name: /^Edition 1/ })
      .tap()
    await page.getByRole('button', { name: 'Put edition 1 back' }).tap()
    await expect(page.getByRole('listitem', { name: POTS })).toHaveCount(1)
    await settled(page)
    await publish(page)
    await expect.poll(shown, 'the sale of that edition begins tomorrow').toEqual([POTS])
  })
  await visitor.context().close()
})
