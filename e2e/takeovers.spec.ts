import { expect, test, type Page } from '@playwright/test'
import { freshName, paste, phoneVisitor, publish, row, startEmpty } from './support/people'
import { PUBLIC } from './support/places'
import { SIZES } from './support/sizes'

/** What can be pressed on a page. */
const buttonsOf = (page: Page) => page.getByRole('link')
/** What stands on a page when it is opened now: a process hears of a change a moment after it is made. */
async function shown(visitor: Page, name: string) {
  await visitor.goto(`${PUBLIC}/${name}`)
  return buttonsOf(visitor).allTextContents()
}
const takeovers = (page: Page) => page.getByRole('list', { name: 'What takes the place of the page' })

for (const size of SIZES)
  test.describe(size.name, () => {
    test.use(size.options)

    test('one block stands alone for a while, and then the page is what it was', async ({
      browser,
      page,
    }) => {
      const name = freshName('solo')
      await startEmpty(page, name)
      await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
      await paste(page, 'https://shop.quarrow.example/seconds', 'Seconds sale')
      await publish(page)
      const sale = row(page, 'Seconds sale')
      await sale.locator('.piece').click()
      const editor = page.getByRole('complementary')
      await editor.getByText('Solo: alone for a while').click()
      const form = editor.getByRole('button', { name: 'Let it stand alone' })
      await form.click()
      await expect(takeovers(page)).toContainText(/“Seconds sale” stands alone since .*, until /)
      await editor.getByRole('button', { name: 'Close the editor' }).click()
      const visitor = await phoneVisitor(browser)
      await expect.poll(() => shown(visitor, name)).toEqual(['Seconds sale'])
      await page.reload()
      await takeovers(page).getByRole('button', { name: 'Put the page back' }).click()
      await expect(takeovers(page)).toHaveCount(0)
      await expect.poll(async () => (await shown(visitor, name)).length).toBe(2)
      await visitor.context().close()
    })

    test('the address leads straight on for a while, which the page as a whole says', async ({
      browser,
      page,
    }) => {
      const name = freshName('straight')
      await startEmpty(page, name)
      await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
      await publish(page)
      await page.getByRole('button', { name: 'The page as a whole' }).click()
      const editor = page.getByRole('complementary')
      await editor.getByRole('textbox', { name: 'Leads to' }).fill('not an address')
      await editor.getByRole('button', { name: 'Lead straight there' }).click()
      await expect(editor.getByRole('alert')).toBeVisible()
      await editor.getByRole('textbox', { name: 'Leads to' }).fill('quarrow.example/film')
      await editor.getByRole('button', { name: 'Lead straight there' }).click()
      await expect(takeovers(page)).toContainText(
        'The address leads straight to https://quarrow.example/film',
      )
      await editor.getByRole('button', { name: 'Close the editor' }).click()
      const visitor = await phoneVisitor(browser)
      const path = async () => (await visitor.goto(`${PUBLIC}/${name}`), new URL(visitor.url()).pathname)
      await expect.poll(path).toContain('/film')
      await takeovers(page).getByRole('button', { name: 'Lead to the page again' }).click()
      await expect(takeovers(page)).toHaveCount(0)
      await expect.poll(async () => (await shown(visitor, name)).length).toBe(1)
      await visitor.context().close()
    })
  })

test('others look at the page as it will be, before it is published', async ({ browser, page }) => {
  const name = freshName('preview')
  await startEmpty(page, name)
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  await page.getByRole('button', { name: 'Seen as of' }).click()
  await page.getByLabel('Moment').fill('2027-03-05T09:00')
  await page.getByLabel('Moment').press('Tab')
  await page.getByRole('button', { name: 'Let others look' }).click()
  const address = await page.getByRole('textbox', { name: 'Preview address' }).inputValue()
  const visitor = await phoneVisitor(browser)
  await visitor.goto(address)
  await expect(visitor.getByRole('note')).toHaveText(/^Preview, not published: as of Fri 5 Mar 2027 09:00\.$/)
  await expect(buttonsOf(visitor)).toHaveText(['Where to find our pots: a map'])
  await page.getByRole('button', { name: 'Close all of this page' }).click()
  await expect(page.getByRole('button', { name: 'Let others look' })).toBeVisible()
  await visitor.reload()
  await expect(visitor.getByRole('heading')).toHaveText('This preview is over')
  await visitor.context().close()
})
