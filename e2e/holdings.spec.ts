import { expect, test } from '@playwright/test'
import { picture } from './support/files'
import { freshName, paste, phoneVisitor, publish, row, startEmpty } from './support/people'
import { PUBLIC } from './support/places'

test('everything is written into one file, which can be left and downloaded', async ({ page }) => {
  await startEmpty(page, freshName('taken-along'))
  await page.getByRole('link', { name: 'Settings' }).click()
  await page.getByRole('button', { name: 'Take everything along' }).click()
  const download = page.getByRole('link', { name: /Download everything \(zip, .*kB\)/ })
  await expect(download).toBeVisible()
  await page.reload()
  const [file] = await Promise.all([page.waitForEvent('download'), download.click()])
  expect(file.suggestedFilename()).toMatch(/^jundle-\d{4}-\d{2}-\d{2}\.zip$/)
  await expect(page.getByRole('button', { name: 'Make it anew' })).toBeVisible()
})

test('what the workspace holds is shown, and a picture nobody needs is deleted', async ({ page }) => {
  await startEmpty(page, freshName('holdings'))
  await page.getByRole('button', { name: 'Edit name, line and picture' }).click()
  await page.getByLabel('Picture: file').setInputFiles(picture('pot.png', 640, 480))
  await page.getByRole('button', { name: 'Use this cut' }).click()
  await expect(page.locator('.piece.top img.portrait')).toBeVisible()
  // Of a size that no other test has: a file is there for as long as anybody keeps the same one.
  await page.getByLabel('Cover: file').setInputFiles(picture('other.png', 311, 207))
  await page.getByRole('button', { name: 'Cancel' }).click()

  await page.getByRole('link', { name: 'Settings' }).click()
  const holds = page.getByRole('region', { name: 'What this workspace holds' })
  await expect(holds.getByRole('row', { name: 'Pages' })).toContainText('1 of 50')
  await expect(holds.getByRole('row', { name: 'Pictures and files' })).toContainText('of 500 MB')
  await holds.getByRole('button', { name: 'Show pictures and files' }).click()
  await expect(holds.getByText('in use').first()).toBeVisible()
  const remove = holds.getByRole('button', { name: /^Delete picture/ })
  await expect(remove).toHaveCount(1)
  const unused = holds
    .getByRole('listitem')
    .filter({ has: page.getByRole('button', { name: /^Delete picture/ }) })
    .locator('img')
  const address = await unused.getAttribute('src')
  await remove.click()
  await expect(remove).toHaveCount(0)
  expect((await page.request.get(PUBLIC + address)).status()).toBe(410)
})

test('the time zone is changed after it was said what that changes', async ({ page }) => {
  await startEmpty(page, freshName('zone'))
  await page.getByRole('link', { name: 'Settings' }).click()
  const zone = page.getByRole('combobox', { name: 'Time zone' })
  await zone.click()
  await page.getByRole('searchbox').fill('kolk')
  await page.getByRole('option', { name: 'Asia/Kolkata' }).click()
  const asked = page.getByRole('alertdialog', { name: 'Let days begin at midnight in Asia/Kolkata?' })
  await asked.getByRole('button', { name: 'Change the time zone' }).click()
  await expect(asked).toHaveCount(0)
  await page.reload()
  await expect(zone).toHaveText('Asia/Kolkata')
})

test('what is taken off the page stops leading at once where the creator says so', async ({
  browser,
  page,
}) => {
  const address = freshName('taken-off')
  await startEmpty(page, address)
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  await paste(page, 'https://tips.example/kiln-fund', 'A tip for the kiln fund')
  await publish(page)
  const visitor = await phoneVisitor(browser)
  await visitor.goto(`${PUBLIC}/${address}`)

  await row(page, 'A tip for the kiln fund').focus()
  await page.keyboard.press('Delete')
  await page.getByRole('button', { name: 'Publish', exact: true }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('What is taken off stops leading at once').check()
  await dialog.getByRole('button', { name: 'Publish now' }).click()
  await expect(page.getByText('nothing waiting')).toBeVisible()

  await visitor.getByRole('link', { name: 'A tip for the kiln fund' }).click()
  await expect(visitor.getByRole('heading', { name: 'No longer on the page' })).toBeVisible()
  await visitor.goBack()
  await visitor.getByRole('link', { name: 'Where to find our pots' }).click()
  await expect(visitor.getByText('stockists', { exact: false }).first()).toBeVisible()
})
