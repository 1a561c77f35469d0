import { expect, test, type Browser } from '@playwright/test'
import { settled } from './support/lines'
import { freshName, paste, publish, row, startEmpty } from './support/people'
import { PUBLIC } from './support/places'

const BUTTON = 'Where to find our pots: a map'

/** Somebody who has not been here today opens a page and presses its button; says when. */
async function press(browser: Browser, address: string, who: number) {
  const context = await browser.newContext({ userAgent: `Mozilla/5.0 (Linux; Android 1${who}) Mobile` })
  const visitor = await context.newPage()
  await visitor.goto(`${PUBLIC}/${address}`)
  await visitor.getByRole('link', { name: BUTTON }).click()
  await expect(visitor.getByText('quarrow.example/stockists')).toBeVisible()
  await context.close()
  return Date.now()
}

test('a click is seen in Arrange and in Readings within two seconds, without asking all the time', async ({
  page,
  browser,
}) => {
  await page.clock.install()
  const address = freshName('live')
  await startEmpty(page, address)
  await paste(page, 'https://quarrow.example/stockists', BUTTON)
  await settled(page)
  await publish(page)
  let asked = 0
  page.on('request', (request) => (asked += /\/readings\?/.test(request.url()) ? 1 : 0))
  let pressed = await press(browser, address, 0)
  await expect(
    row(page, BUTTON)
      .getByLabel(/1 click/)
      .first(),
  ).toBeVisible()
  expect(Date.now() - pressed).toBeLessThan(2000)

  await page.getByRole('link', { name: 'Readings' }).click()
  const headline = page.getByRole('region', { name: 'Headline figures' })
  const clicks = headline.locator('.figure', { hasText: 'Clicks' }).locator('.value')
  await expect(clicks).toHaveText('1')
  pressed = await press(browser, address, 1)
  await expect(clicks).toHaveText('2')
  expect(Date.now() - pressed).toBeLessThan(2000)
  // A minute goes by, and what is due in it comes: nobody presses, so nobody asks.
  asked = 0
  await page.clock.fastForward(60_000)
  await page.getByRole('heading', { name: 'Readings' }).click()
  expect(asked).toBe(0)
})
