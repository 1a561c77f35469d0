import { expect, test } from '@playwright/test'
import { expectClean } from './support/axe'
import { letterTo } from './support/letters'
import { ILSE, signIn } from './support/people'
import { STANDINS } from './support/places'

test('the weekly letter says what Readings says, and is switched off from within it', async ({ page }) => {
  await signIn(page, ILSE)
  await page.goto('/settings')
  await page.getByRole('button', { name: 'Send me last week’s now' }).click()
  await expect(page.getByText('It is on its way')).toBeVisible()
  const letter = await letterTo(page.request, ILSE.email, /^Last week/)
  expect(letter.header['List-Unsubscribe-Post']).toBe('List-Unsubscribe=One-Click')

  // The figures of the letter are those of the view it leads to.
  const [, visits] = /^Last week: ([\d,]+) visits to your page/.exec(letter.subject)!
  const [address] = /http\S+readings\?range=\S+/.exec(letter.text)!
  await page.goto(address)
  await expect(page.getByText(visits!, { exact: true }).first()).toBeVisible()

  await page.goto(`${STANDINS}/mail/${letter.id}`)
  await page.frameLocator('iframe').getByRole('link', { name: 'Switch this letter off' }).click()
  await page.getByRole('button', { name: 'Switch it off' }).click()
  await expect(page.getByRole('heading', { name: 'The weekly letter is off' })).toBeVisible()
  await expectClean(page, 'main')
  await page.goto('/settings')
  const wanted = page.getByLabel('Send me the figures of the week')
  await expect(wanted).not.toBeChecked()
  await wanted.click()
  await expect(wanted).toBeChecked()
})
