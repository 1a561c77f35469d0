import { expect, test, type Page } from '@playwright/test'
import { expectClean } from './support/axe'
import { settled } from './support/lines'
import { freshName, paste, phoneVisitor, publish, row, startEmpty, titles } from './support/people'
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
  expect(await visitor.locator('script:not([type="application/ld+json"])').count()).toBe(0)
  await visitor.context().close()
})

test('a page of more than thirty blocks is searched without script', async ({ page, browser }) => {
  const address = freshName('searched')
  await startEmpty(page, address)
  const lines = Array.from({ length: 32 }, (_, n) => `Pot ${n + 1} https://pots.example/${n + 1}`)
  await page.getByLabel('Paste an address to add a button').evaluate((line, pasted) => {
    const text = new DataTransfer()
    text.setData('text', pasted)
    line.dispatchEvent(new ClipboardEvent('paste', { clipboardData: text, bubbles: true, cancelable: true }))
  }, lines.join('\n'))
  await page.getByRole('button', { name: 'Add 32 blocks' }).click()
  await expect(row(page, 'Pot 32')).toBeVisible()
  await page.getByRole('button', { name: 'The page as a whole' }).click()
  await page.getByText('A field to search the page').click()
  await expectClean(page, 'aside')
  await page.keyboard.press('Escape')
  await publish(page)

  const visitor = await phoneVisitor(browser)
  await visitor.goto(`${PUBLIC}/${address}`)
  await visitor.getByRole('searchbox', { name: 'Find on this page' }).fill('POT 17')
  await visitor.keyboard.press('Enter')
  await expect(visitor.getByRole('status')).toContainText('1 of 32 found.')
  await expect(visitor.locator('a.button')).toHaveCount(1)
  await expectClean(visitor, 'main')
  await visitor.getByRole('link', { name: 'Show all' }).click()
  await expect(visitor.locator('a.button')).toHaveCount(32)
  expect(await visitor.locator('script:not([type="application/ld+json"])').count()).toBe(0)
  await visitor.context().close()
})

test('what is added under a heading that wants the newest first comes first', async ({ page }) => {
  await startEmpty(page, freshName('newest'))
  await addHeading(page, 'Films')
  await page.getByRole('complementary').getByRole('radio', { name: 'newest first' }).click()
  await expectClean(page, 'aside')
  await page.keyboard.press('Escape')
  await paste(page, 'One https://pots.example/1', 'One')
  await settled(page)
  await paste(page, 'Two https://pots.example/2', 'Two')
  await expect.poll(() => titles(page)).toEqual(['Films', 'Two', 'One'])
  await page.reload()
  await expect.poll(() => titles(page)).toEqual(['Films', 'Two', 'One'])
})
