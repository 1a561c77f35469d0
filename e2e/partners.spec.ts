import { expect, test } from '@playwright/test'
import { expectClean } from './support/axe'
import { ILSE, signIn } from './support/people'

const day = (back: number) => new Date(Date.now() - back * 86_400_000)
const ISO = (at: Date) => at.toISOString().slice(0, 10)
const german = (at: Date) => ISO(at).split('-').reverse().join('.')

test('a partner’s report is read, put right, kept, compared, and answered with a text', async ({ page }) => {
  await signIn(page, ILSE)
  await page.getByRole('link', { name: 'Readings' }).click()
  await page.getByRole('link', { name: 'Against a partner’s count' }).click()
  const rows = [1, 2, 3].map((back) => `film;${german(day(back))};${back === 2 ? 400 : 10}`)
  await page.getByLabel('Whose report').fill('Wavecastle')
  await page.getByLabel('Report of a partner').setInputFiles({
    name: 'report.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(['sub;tag;klicks', ...rows, 'film;gestern;3'].join('\n')),
  })
  // One row cannot be read, so that the days are not found by themselves.
  await expect(page.getByText('Say which columns hold the day')).toBeVisible()
  const choose = async (label: string, option: string) => {
    await page.getByRole('combobox', { name: label, exact: true }).click()
    await page.getByRole('option', { name: option, exact: true }).click()
  }
  await choose('Day', 'tag')
  await choose('Days are written', '30.06.2026')
  await choose('Destination or sub-id', 'sub')
  await choose('Clicks', 'klicks')
  await expect(page.getByText(`420 clicks in 3 counts, from ${ISO(day(3))} to ${ISO(day(1))}.`)).toBeVisible()
  await page.getByText('1 row cannot be read').click()
  await expect(page.getByText('“gestern” is no day')).toBeVisible()
  await page.getByRole('button', { name: 'Keep these counts' }).click()

  const lines = page.getByRole('region', { name: 'Counts of Wavecastle and ours' })
  await expect(lines).toContainText('Film: forty hours of fire')
  await lines.getByRole('button', { name: 'days' }).click()
  await expect(lines.getByRole('row', { name: ISO(day(2)) })).toContainText('more than normal')
  const text = page.getByRole('region', { name: 'A text to send them' })
  await expect(text).toContainText(`${ISO(day(2))}, film: we counted`)
  await expect(text).toContainText('you 400')
  await expectClean(page, '.view')
  await page.getByRole('button', { name: 'Delete Wavecastle and all its counts' }).click()
  await expect(lines).toHaveCount(0)
})
