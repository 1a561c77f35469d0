import { expect, test } from '@playwright/test'
import { freshName, paste, phoneVisitor, row, startEmpty } from './support/people'
import { PUBLIC } from './support/places'

test('a page goes live as it is edited, and quick changes are one edition', async ({ page, browser }) => {
  const address = freshName('as-edited')
  await startEmpty(page, address)
  await paste(page, 'Pots https://pots.example/', 'Pots')
  await page.getByRole('button', { name: 'Publish', exact: true }).click()
  const goLive = page.getByText('Go live as edited', { exact: true })
  await goLive.click()
  const asked = page.getByRole('alertdialog')
  await expect(asked).toContainText('The page goes live for the first time, with 1 block.')
  await asked.getByRole('button', { name: 'Cancel' }).click()
  await expect(page.getByRole('switch', { name: 'Go live as edited' })).not.toBeChecked()
  await goLive.click()
  await asked.getByRole('button', { name: 'Publish, and go live as edited' }).click()
  await expect(page.getByText('Visitors see all of it already.')).toBeVisible()
  await page.getByRole('button', { name: 'Not yet' }).click()
  await expect(page.getByText('live as edited, edition 1, nothing waiting')).toBeVisible()

  const visitor = await phoneVisitor(browser)
  await visitor.goto(`${PUBLIC}/${address}`)
  await expect(visitor.getByRole('link', { name: 'Pots' })).toBeVisible()
  await row(page, 'Pots').locator('.piece').click()
  const title = page.getByLabel('Title', { exact: true })
  await title.fill('Pots and')
  await title.pressSequentially(' bowls')
  await expect(async () => {
    await visitor.reload()
    await expect(visitor.getByRole('link', { name: 'Pots and bowls' })).toBeVisible({ timeout: 100 })
  }).toPass({ timeout: 6_000 })
  await page.keyboard.press('Escape')
  await expect(page.getByText(/^live as edited, edition [23], nothing waiting$/)).toBeVisible()

  await page.getByRole('button', { name: 'Live as edited' }).click()
  await page.getByText('Go live as edited', { exact: true }).click()
  await page.getByRole('button', { name: 'Not yet' }).click()
  await row(page, 'Pots and bowls').locator('.piece').click()
  await title.fill('Bowls')
  await page.keyboard.press('Escape')
  await expect(page.getByText(/1 change waiting$/)).toBeVisible()
  await visitor.context().close()
})
