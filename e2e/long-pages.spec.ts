import { expect, test, type Page } from '@playwright/test'
import { freshName, paste, phoneVisitor, publish, row, startEmpty } from './support/people'
import { PUBLIC } from './support/places'

async function addHeading(page: Page, text: string) {
  await page.getByRole('button', { name: 'Add a block' }).click()
  await page.getByRole('menuitem', { name: 'Heading' }).click()
  await page.getByRole('complementary').getByLabel('Heading', { exact: true }).fill(text)
}

test('a heading folds what is under it, by hand and without script, and a press is counted', async ({
  page,
  browser,
}) => {
  const address = freshName('long')
  await startEmpty(page, address)
  for (const text of ['Dates', 'Films', 'Letters']) {
    await addHeading(page, text)
    await page.keyboard.press('Escape')
  }
  await addHeading(page, 'Pots')
  await page.getByText('Fold what stands under it, until it is pressed').click()
  await page.getByRole('complementary').getByRole('radio', { name: '3', exact: true }).click()
  await page.keyboard.press('Escape')
  for (const n of [1, 2, 3, 4, 5]) await paste(page, `Pot ${n} https://pots.example/${n}`, `Pot ${n}`)
  await page.getByRole('button', { name: 'The page as a whole' }).click()
  await page.getByText('Links to its headings at the top').click()
  await page.keyboard.press('Escape')
  await expect(row(page, 'Pots').getByText('folds')).toBeVisible()
  const words = await publish(page)
  expect(words.join()).toContain('for the first time')

  const visitor = await phoneVisitor(browser)
  await visitor.goto(`${PUBLIC}/${address}`)
  const buttons = visitor.locator('a.button')
  await expect(buttons).toHaveCount(5)
  await expect(buttons.filter({ visible: true })).toHaveCount(0)
  await visitor.getByRole('navigation', { name: 'On this page' }).getByRole('link', { name: 'Pots' }).click()
  expect(visitor.url()).toContain('#at-')
  await visitor.locator('summary').first().press('Enter')
  await expect(buttons.filter({ visible: true })).toHaveCount(3)
  await visitor.getByText('Show 2 more').click()
  await expect(buttons.filter({ visible: true })).toHaveCount(5)
  expect(await visitor.locator('script').count()).toBe(0)
  await visitor.context().close()
})
