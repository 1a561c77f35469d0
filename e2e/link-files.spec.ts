import { readFileSync } from 'node:fs'
import { expect, test } from '@playwright/test'
import { expectCleanAtBothSizes } from './support/axe'
import { freshName, row, startEmpty } from './support/people'

const LINKS =
  'Titel;Adresse;Gruppe\n"Töpfe; alle";quarrow.example/pots;shop\nBrand;quarrow.example/fire;\nKaputt;javascript:x;\n'
const windows1252 = Buffer.from(LINKS, 'latin1')

test('a file of links is shown with what it is, kept in one step, and taken out again', async ({ page }) => {
  await startEmpty(page, freshName('from-a-file'))
  await page.goto('/shelf/destinations')
  const destinations = page.getByRole('list', { name: 'Destinations' }).getByRole('listitem')
  await page.getByRole('button', { name: 'From a file' }).click()
  const dialog = page.getByRole('dialog')
  const file = dialog.getByLabel('File of links')
  await file.setInputFiles({ name: 'broken.csv', mimeType: 'text/csv', buffer: Buffer.from('a,b\nc,"d') })
  await expect(
    dialog.getByText('Line 2, column 3: the quotation mark that opens here is not closed'),
  ).toBeVisible()
  await file.setInputFiles({ name: 'links.csv', mimeType: 'text/csv', buffer: windows1252 })
  await expect(dialog.getByText('text in WINDOWS-1252 · values between semicolons')).toBeVisible()
  await expect(dialog.getByText('2 new links, of 1 row no link can be made.')).toBeVisible()
  await dialog.getByRole('combobox', { name: 'Labels' }).click()
  await page.getByRole('option', { name: 'Gruppe' }).click()
  await dialog.getByLabel('A label for all of them').fill('spring')
  await expectCleanAtBothSizes(page, '.p-dialog')
  await dialog.getByRole('button', { name: 'Keep 2 links' }).click()
  await expect(dialog.getByText('2 links are kept as destinations.')).toBeVisible()
  await dialog.getByRole('button', { name: 'Done' }).click()
  await expect(destinations.first()).toContainText('Töpfe; alle')
  await expect(destinations.first()).toContainText('shop')

  await page.getByRole('link', { name: 'Töpfe; alle' }).click()
  await page.getByRole('button', { name: /^Make a button of it on/ }).click()
  await page.getByRole('navigation').getByRole('link', { name: 'Arrange' }).click()
  await expect(row(page, 'Töpfe; alle')).toBeVisible()
  await expect(page.locator('.standing').getByText(/saving|saved/)).toHaveCount(0)

  await page.goto('/shelf/destinations')
  await page.getByRole('button', { name: 'From a file' }).click()
  const more = Buffer.from('https://quarrow.example/kiln\nhttps://quarrow.example/glaze')
  await file.setInputFiles({ name: 'more.txt', mimeType: 'text/plain', buffer: more })
  await dialog.getByRole('button', { name: 'Keep 2 links' }).click()
  await dialog.getByRole('button', { name: 'Take them out again' }).click()
  await expect(page.getByText('2 links are out again')).toBeVisible()
  await expect(destinations).toHaveCount(2)

  const coming = page.waitForEvent('download')
  await page.getByRole('link', { name: 'As bookmarks' }).click()
  const bookmarks = readFileSync(await (await coming).path(), 'utf8')
  expect(bookmarks).toContain('<!DOCTYPE NETSCAPE-Bookmark-file-1>')
  expect(bookmarks).toContain('<DT><H3>spring</H3>')
  expect(bookmarks).toContain('Töpfe; alle</A>')
})
