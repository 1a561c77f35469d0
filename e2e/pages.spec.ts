import { expect, test, type Page } from '@playwright/test'
import {
  addPage,
  allPages,
  freshName,
  paste,
  phoneVisitor,
  publish,
  row,
  startEmpty,
  titles,
} from './support/people'
import { settled } from './support/lines'
import { PUBLIC } from './support/places'
import { SIZES } from './support/sizes'

const about = (page: Page) => page.getByRole('link', { name: 'About this page' }).click()

/** The row of a page in the list of them. */
const listed = (page: Page, address: string) =>
  page.getByRole('list', { name: 'Pages' }).getByRole('listitem').filter({ hasText: address })

for (const size of SIZES) {
  test.describe(size.name, () => {
    test.use(size.options)

    test('a page rests with a notice, and wakes as it was', async ({ page, browser }) => {
      const address = freshName('restful')
      await startEmpty(page, address)
      await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
      await publish(page)
      await about(page)
      await page.getByLabel('What visitors read').fill('Back in May, with new glazes.')
      await page.getByRole('button', { name: 'Put the page to rest' }).click()
      await expect(page.getByText('This page rests since')).toBeVisible()
      const says = page.getByRole('alert').filter({ hasText: 'The live page rests now.' })
      await says.getByRole('button', { name: 'Undo' }).click()
      await expect(page.getByText('This page rests since')).toHaveCount(0)
      await page.getByLabel('What visitors read').fill('Back in May, with new glazes.')
      await page.getByRole('button', { name: 'Put the page to rest' }).click()
      await expect(page.getByText('This page rests since')).toBeVisible()
      await expect(page.getByText(/^resting, edition /)).toBeVisible()
      const visitor = await phoneVisitor(browser)
      const answer = await visitor.goto(`${PUBLIC}/${address}`)
      expect(answer?.status()).toBe(503)
      await expect(visitor.getByText('Back in May, with new glazes.')).toBeVisible()
      await allPages(page)
      await expect(listed(page, address)).toContainText('resting')
      await page.getByRole('link', { name: 'Arrange', exact: true }).click()
      await expect(page.getByText('Visitors read: “Back in May, with new glazes.”')).toBeVisible()
      await page.getByRole('button', { name: 'Wake the page' }).click()
      await expect(page.getByText('This page rests since')).toHaveCount(0)
      await expect.poll(async () => (await visitor.goto(`${PUBLIC}/${address}`))?.status()).toBe(200)
      await visitor.context().close()
    })

    test('a page is taken down, told apart, and kept after all', async ({ page, browser }) => {
      const [first, second] = [freshName('first'), freshName('second')]
      await startEmpty(page, first)
      await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
      await publish(page)
      await about(page)
      await page.getByRole('button', { name: 'Take this page down' }).click()
      await page.getByRole('alertdialog').getByRole('button', { name: 'Take down' }).click()
      await expect(page.getByRole('alert').getByText('This is your only page')).toBeVisible()
      await addPage(page, second)
      await page.getByRole('combobox', { name: 'Page' }).click()
      await page.getByRole('option').first().click()
      await expect(row(page, 'Where to find our pots')).toBeVisible()
      await about(page)
      await page.getByRole('button', { name: 'Take this page down' }).click()
      await page.getByRole('alertdialog').getByRole('button', { name: 'Take down' }).click()
      await expect(listed(page, first)).toContainText('taken down, gone for good on')
      const visitor = await phoneVisitor(browser)
      await expect.poll(async () => (await visitor.goto(`${PUBLIC}/${first}`))?.status()).toBe(410)
      await listed(page, first).getByRole('button', { name: 'Keep it after all' }).click()
      await expect(listed(page, first)).toContainText('live, edition 1')
      await expect.poll(async () => (await visitor.goto(`${PUBLIC}/${first}`))?.status()).toBe(200)
      await visitor.context().close()
    })

    test('a page is copied, labelled, and gets a block of another', async ({ page }) => {
      const [first, copy] = [freshName('first'), freshName('copy')]
      await startEmpty(page, first)
      await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
      await paste(page, 'https://tips.example/kiln-fund', 'A tip for the kiln fund')
      await about(page)
      await page.getByRole('textbox', { name: 'Labels' }).fill('shop, spring')
      await page.keyboard.press('Tab')
      await allPages(page)
      await expect(listed(page, first)).toContainText('spring')
      await page.getByLabel('Address of another page').fill(copy)
      await page.getByRole('combobox', { name: 'It begins as' }).click()
      await page.getByRole('option', { name: `A copy of ${first}` }).click()
      await expect(page.getByLabel('with its sources, by the same tags')).toBeChecked()
      await page.getByRole('button', { name: 'Add page' }).click()
      await expect
        .poll(() => titles(page))
        .toEqual(['Where to find our pots: a map', 'A tip for the kiln fund'])
      await allPages(page)
      await page.getByRole('button', { name: 'spring' }).click()
      await expect(listed(page, copy)).toHaveCount(0)
      await listed(page, first).getByRole('link', { name: first, exact: true }).click()

      await row(page, 'A tip for the kiln fund').locator('.piece').click()
      await page.getByText('To another page').click()
      await page.getByRole('button', { name: 'Move it there' }).click()
      await expect(page.getByText(`“A tip for the kiln fund” is on ${copy} now`)).toBeVisible()
      await expect.poll(() => titles(page)).toEqual(['Where to find our pots: a map'])
      const [both, alone] = [
        ['Where to find our pots: a map', 'A tip for the kiln fund'],
        ['Where to find our pots: a map'],
      ]
      const onCopy = [...both, 'A tip for the kiln fund']
      const go = async (to: string) => {
        await page.getByRole('combobox', { name: 'Page' }).click()
        await page.getByRole('option', { name: to }).click()
        await expect(page.getByRole('combobox', { name: 'Page' })).toContainText(to)
      }
      await go(copy)
      await expect.poll(() => titles(page)).toEqual(onCopy)
      await go(first)

      // One step, undone and done again on both pages, from either, and after a reload.
      await page.getByRole('button', { name: 'Undo', exact: true }).click()
      await expect.poll(() => titles(page)).toEqual(both)
      await go(copy)
      await expect.poll(() => titles(page)).toEqual(both)
      await settled(page)
      await page.reload()
      await page.getByRole('button', { name: 'Redo', exact: true }).click()
      await expect.poll(() => titles(page)).toEqual(onCopy)
      await go(first)
      await expect.poll(() => titles(page)).toEqual(alone)

      // What was changed on the other page since stays there.
      await go(copy)
      await row(page, 'A tip for the kiln fund').last().focus()
      await page.keyboard.press('F2')
      await page.keyboard.insertText('A tip for the new kiln')
      await page.keyboard.press('Enter')
      await settled(page)
      await go(first)
      await page.getByRole('button', { name: 'Undo', exact: true }).click()
      await expect(page.getByText('Undone on this page only')).toBeVisible()
      await expect.poll(() => titles(page)).toEqual(both)
      await go(copy)
      await expect.poll(() => titles(page)).toEqual([...both, 'A tip for the new kiln'])
    })
  })
}
