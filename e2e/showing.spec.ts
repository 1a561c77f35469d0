import { expect, test, type Page } from '@playwright/test'
import { settled } from './support/lines'
import { freshName, paste, phoneVisitor, publish, row, startEmpty } from './support/people'
import { PUBLIC } from './support/places'
import { SIZES } from './support/sizes'

/** What can be pressed on a page. */
const buttonsOf = (page: Page) => page.getByRole('link')

/** A date and time as a field of HTML has it, so many hours from now, by the clocks of this machine. */
function inHours(hours: number) {
  const at = new Date(Date.now() + hours * 3_600_000)
  return new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 16)
}

for (const size of SIZES)
  test.describe(size.name, () => {
    test.use(size.options)

    test('a button is prepared, begins and ends by itself, and repeats every week', async ({
      browser,
      page,
    }) => {
      const name = freshName('windows')
      await startEmpty(page, name)
      await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
      await paste(page, 'https://shop.quarrow.example/seconds', 'Seconds sale')
      const sale = row(page, 'Seconds sale')
      await sale.locator('.piece').click()
      const editor = page.getByRole('complementary')
      await editor.getByRole('button', { name: 'Hide', exact: true }).click()
      await editor.getByText('When it shows, and to whom').click()
      await editor.getByRole('button', { name: 'Let it begin by itself' }).click()
      await expect(editor.getByLabel('from', { exact: true })).toHaveValue(/T09:00$/)
      await expect(sale.getByText(/^from .*09:00$/)).toBeVisible()
      await settled(page)
      await editor.getByRole('button', { name: 'Close the editor' }).click()
      expect((await publish(page)).join(' ')).toContain('goes live for the first time')
      const visitor = await phoneVisitor(browser)
      await visitor.goto(`${PUBLIC}/${name}`)
      await expect(buttonsOf(visitor)).toHaveCount(1)

      await sale.locator('.piece').click()
      await editor.getByLabel('from', { exact: true }).fill(inHours(-2))
      await editor.getByLabel('until', { exact: true }).fill(inHours(-3))
      await expect(editor.getByRole('alert')).toContainText('ends before it begins')
      await editor.getByLabel('until', { exact: true }).fill(inHours(2))
      await expect(editor.getByRole('alert')).toHaveCount(0)
      await settled(page)
      await expect(sale.getByRole('img', { name: /^shows until / })).toBeVisible()
      await editor.getByRole('button', { name: 'Close the editor' }).click()
      expect((await publish(page)).join(' ')).toMatch(/“Seconds sale” shows .* to /)
      await visitor.goto(`${PUBLIC}/${name}`)
      await expect(buttonsOf(visitor)).toHaveCount(2)

      await sale.locator('.piece').click()
      await editor.getByRole('button', { name: 'Every week' }).click()
      const friday = editor.getByRole('group', { name: 'Every week, 1' })
      await friday.getByRole('checkbox', { name: 'Monday' }).check()
      await expect(friday.getByRole('checkbox', { checked: true })).toHaveCount(2)
      await editor.getByRole('button', { name: 'Take window 1 away' }).click()
      await settled(page)
      await editor.getByRole('button', { name: 'Close the editor' }).click()
      expect((await publish(page)).join(' ')).toContain('Mon, Fri 10:00 to 18:00 each week')
      await visitor.context().close()
    })
  })

test('a button is shown to those from one source only', async ({ browser, page }) => {
  const name = freshName('sources')
  await startEmpty(page, name)
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  await page.getByRole('link', { name: 'Sources', exact: true }).click()
  await page.getByPlaceholder('A profile, a card, a letter').fill('Printed card')
  await page.getByRole('button', { name: 'Add source' }).click()
  await expect(page.getByRole('row', { name: 'Printed card' })).toBeVisible()
  await page.getByRole('link', { name: 'Arrange', exact: true }).click()
  await row(page, 'Where to find').locator('.piece').click()
  const editor = page.getByRole('complementary')
  await editor.getByText('When it shows, and to whom').click()
  await editor.getByRole('radio', { name: 'Only those from' }).check()
  await expect(editor.getByRole('switch', { name: 'Printed card' })).toBeChecked()
  await expect(row(page, 'Where to find').getByText('for 1 source')).toBeVisible()
  await settled(page)
  await editor.getByRole('button', { name: 'Close the editor' }).click()
  await publish(page)
  const visitor = await phoneVisitor(browser)
  await visitor.goto(`${PUBLIC}/${name}`)
  await expect(buttonsOf(visitor)).toHaveCount(0)
  await visitor.goto(`${PUBLIC}/${name}/printed-card`)
  await expect(buttonsOf(visitor)).toHaveCount(1)
  await visitor.context().close()

  await page.getByRole('button', { name: 'Seen as of…' }).click()
  const seen = page.getByRole('region', { name: 'Seen as of…' })
  const only = row(page, 'Where to find')
  await expect(only).not.toHaveClass(/hidden/)
  await seen.getByRole('slider', { name: 'Slide through time' }).focus()
  await page.keyboard.press('ArrowRight')
  await expect(only).toHaveClass(/hidden/)
  await seen.getByRole('combobox', { name: 'Coming from' }).click()
  await page.getByRole('option', { name: 'Printed card' }).click()
  await expect(only).not.toHaveClass(/hidden/)
  await expect(seen).toContainText('Printed card')
  await page.reload()
  await expect(seen.getByRole('status')).toContainText('Printed card')
  await expect(only).not.toHaveClass(/hidden/)
  await seen.getByLabel('Moment').fill('2030-01-01T09:30')
  await expect(page).toHaveURL(/at=2030-01-01T/)
  await expect(seen.getByRole('status')).toContainText('09:30')
  await seen.getByRole('button', { name: 'Back to now' }).click()
  await expect(seen).toHaveCount(0)
})
