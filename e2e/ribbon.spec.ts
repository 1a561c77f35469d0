import { expect, test } from '@playwright/test'
import { expectClean } from './support/axe'
import { settled } from './support/lines'
import { freshName, paste, row, startEmpty } from './support/people'
import { SIZES } from './support/sizes'

/** How many hours after a local date and time of HTML another one is. */
const hoursBetween = (before: string, after: string) => (Date.parse(after) - Date.parse(before)) / 3_600_000

for (const size of SIZES)
  test.describe(size.name, () => {
    test.use(size.options)

    test('a window is moved on the ribbon by key and by dragging, over hours, weeks and months', async ({
      page,
    }) => {
      await startEmpty(page, freshName('ribbon'))
      await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
      await row(page, 'Where to find our pots').locator('.piece').click()
      const editor = page.getByRole('complementary')
      await editor.getByText('When it shows, and to whom').click()
      await editor.getByRole('button', { name: 'Window', exact: true }).click()
      const from = editor.getByLabel('from', { exact: true })
      const until = editor.getByLabel('until', { exact: true })
      const day = new Date(Date.now() + 24 * 3_600_000).toISOString().slice(0, 10)
      await from.fill(`${day}T09:00`)
      await until.fill(`${day}T12:00`)
      const begins = editor.getByRole('slider', { name: 'Window 1 begins' })
      await begins.focus()
      await page.keyboard.press('ArrowRight')
      await expect(from).toHaveValue(`${day}T10:00`)
      await expect(until).toHaveValue(`${day}T12:00`)
      await page.keyboard.press('Shift+ArrowLeft')
      await expect(from).toHaveValue(`${day}T09:00`)
      await expect(until).toHaveValue(`${day}T11:00`)

      await editor.getByRole('radio', { name: 'six months' }).check()
      await editor.getByRole('slider', { name: 'Window 1 ends' }).press('ArrowRight')
      await expect.poll(async () => hoursBetween(await from.inputValue(), await until.inputValue())).toBe(26)
      await editor.getByRole('radio', { name: 'two days' }).check()
      await begins.press('ArrowRight')
      await expect(from).toHaveValue(`${day}T09:15`)
      await settled(page)
      await expectClean(page, 'aside')

      await editor.getByRole('radio', { name: 'five weeks' }).check()
      const track = (await editor.locator('.track').boundingBox())!
      const bar = (await editor.locator('.bar').boundingBox())!
      const [x, y] = [bar.x + bar.width / 2, bar.y + bar.height / 2]
      await page.mouse.move(x, y)
      await page.mouse.down()
      await page.mouse.move(x + track.width / 5, y, { steps: 4 })
      await page.mouse.up()
      const moved = hoursBetween(`${day}T09:15`, await from.inputValue())
      expect(moved).toBeGreaterThan(5 * 24)
      expect(moved).toBeLessThan(9 * 24)
      await settled(page)
      await page.reload()
      await expect(row(page, 'Where to find our pots').getByText(/^from /)).toBeVisible()
    })

    test('gates, headings and blocks for other pages are edited without a fault that axe finds', async ({
      page,
    }) => {
      await startEmpty(page, freshName('fields'))
      await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
      await row(page, 'Where to find our pots').locator('.piece').click()
      const editor = page.getByRole('complementary')
      for (const summary of await editor.locator('summary').all()) await summary.click()
      await expectClean(page, 'aside')
      await page.keyboard.press('Escape')
      await page.getByRole('button', { name: 'The page as a whole' }).click()
      await expectClean(page, 'aside')
    })
  })
