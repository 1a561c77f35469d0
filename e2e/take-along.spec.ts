import { readFileSync } from 'node:fs'
import { expect, test, type Page } from '@playwright/test'
import { ILSE, signIn } from './support/people'

async function readings(page: Page) {
  await signIn(page, ILSE)
  await page.getByRole('link', { name: 'Readings' }).click()
  await expect(page.getByRole('heading', { name: 'Take it along' })).toBeVisible()
}

async function taken(page: Page, button: string) {
  const download = page.waitForEvent('download')
  await page.getByRole(button === 'Take the table' ? 'link' : 'button', { name: button }).click()
  const file = await download
  return { name: file.suggestedFilename(), text: readFileSync(await file.path(), 'utf8') }
}

test('a table that is taken along says what the screen says', async ({ page }) => {
  await readings(page)
  const row = page
    .getByRole('region', { name: 'Buttons by sources' })
    .getByRole('row', { name: /Glaze recipes/ })
  const onScreen = (await row.getByRole('link').locator('strong').allTextContents()).map(Number)
  const { name, text } = await taken(page, 'Take the table')
  expect(name).toMatch(/^quarrow-clay-buttons-\d{4}-\d\d-\d\d-to-.*\.csv$/)
  const inFile = text
    .split('\r\n')
    .filter((line) => line.startsWith('Glaze recipes,'))
    .map((line) => Number(line.split(',')[3]))
  expect(inFile.sort((a, b) => a - b)).toEqual(onScreen.sort((a, b) => a - b))

  await page.getByRole('combobox', { name: 'Which table' }).click()
  await page.getByRole('option', { name: 'Days', exact: true }).click()
  await page.getByRole('radio', { name: 'NDJSON' }).check()
  const days = (await taken(page, 'Take the table')).text.trim().split('\n')
  const visits = days.reduce((sum, line) => sum + (JSON.parse(line) as { visits: number }).visits, 0)
  const headline = page.getByRole('region', { name: 'Headline figures' })
  const title = page.getByRole('heading', { name: 'Visits', exact: true })
  const shown = await headline.locator('.figure').filter({ has: title }).locator('.value').textContent()
  expect(visits).toBe(Number(shown!.replace(/\D/g, '')))
})

test('raw events come with their progress, all of them', async ({ page }) => {
  await readings(page)
  await page.getByRole('radio', { name: 'NDJSON' }).check()
  const answer = page.waitForResponse(/\/events\?/)
  const { name, text } = await taken(page, 'Take the raw events')
  expect(name).toMatch(/-events-.*\.ndjson$/)
  const lines = text.trim().split('\n')
  expect(lines).toHaveLength(Number((await answer).headers()['x-total-count']))
  const kinds = new Set(lines.map((line) => (JSON.parse(line) as { kind: string }).kind))
  expect([...kinds].sort()).toEqual(['click', 'view'])
})

test('a range is printed on one page of A4', async ({ page }) => {
  await readings(page)
  await page.getByRole('link', { name: 'A page to print' }).click()
  await expect(page.getByRole('article').getByRole('heading', { name: 'Quarrow Clay' })).toBeVisible()
  await expect(page.getByText('The 10 strongest buttons')).toBeVisible()
  const printed = (await page.pdf({ preferCSSPageSize: true, printBackground: true })).toString('latin1')
  expect(printed.match(/\/Type\s*\/Page[^s]/g)).toHaveLength(1)
})
