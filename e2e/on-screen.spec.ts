import { devices, expect, test } from '@playwright/test'
import { freshName, paste, publish, startEmpty } from './support/people'
import { PUBLIC } from './support/places'

test('a page that measures it tells once how far down a visit got, and what had each button on screen', async ({
  browser,
  page,
}) => {
  const address = freshName('screen')
  await startEmpty(page, address)
  for (const title of ['First', 'Second', 'Third', 'Fourth', 'Fifth', 'Sixth'])
    await paste(page, `https://quarrow.example/${title}`, title)
  await page.goto(page.url().replace(/arrange.*$/, 'settings'))
  await page.getByLabel('Measure which buttons come on screen').click()
  await page.getByRole('link', { name: 'Arrange' }).click()
  await publish(page)
  const keys = await page.locator('.rows li').evaluateAll((rows) => rows.map((each) => each.dataset.key))

  /** Opens the page on a low screen, goes as far down as a button, and leaves: what was told. */
  async function visit(downTo: string | undefined, asks = false) {
    const context = await browser.newContext({ ...devices['Pixel 7'], viewport: { width: 390, height: 420 } })
    if (asks)
      await context.addInitScript(() =>
        Object.defineProperty(navigator, 'globalPrivacyControl', { value: true }),
      )
    const visitor = await context.newPage()
    const told: string[] = []
    context.on('request', (request) => {
      if (request.method() === 'POST') told.push(request.postData() ?? '')
    })
    await visitor.goto(`${PUBLIC}/${address}`)
    if (downTo) {
      await visitor.getByRole('link', { name: downTo }).scrollIntoViewIfNeeded()
      await visitor.mouse.wheel(0, 60)
    }
    // Whoever begins to observe now hears of it after the page's own script has.
    await visitor.evaluate(async () => {
      await new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))
      await new Promise((done) => new IntersectionObserver(done).observe(document.body))
    })
    // A page that is hidden says so; a second time it has nothing to tell.
    await visitor.evaluate(() => {
      Object.defineProperty(document, 'hidden', { value: true })
      document.dispatchEvent(new Event('visibilitychange', { bubbles: true }))
      document.dispatchEvent(new Event('visibilitychange', { bubbles: true }))
    })
    await visitor.goto('about:blank')
    await context.close()
    return told
  }
  expect(await visit(undefined)).toHaveLength(1)
  expect(await visit('Sixth')).toEqual([`block=${keys[5]}`])
  expect(await visit('Sixth', true), 'who asks not to be watched').toEqual([])

  const others = await browser.newContext(devices['Pixel 7'])
  for (let n = 0; n < 30; n++)
    await others.request.post(`${PUBLIC}/${address}/-/1/-`, { form: { block: keys[n % 2 ? 5 : 0]! } })
  await (await others.newPage()).goto(`${PUBLIC}/${address}`)
  await others.close()
  const here = page.url().match(/\/pages\/[^/?]+/)![0]
  await expect(async () => {
    await page.goto(`${here}/readings/buttons/${keys[5]}`)
    await expect(page.getByText(/It came on screen in 5\d\s%\sof the visits that were measured/)).toBeVisible(
      {
        timeout: 2000,
      },
    )
  }).toPass({ timeout: 30_000 })
})
