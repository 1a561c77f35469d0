import { devices, expect, test } from '@playwright/test'
import { freshName, publish, row, startEmpty } from './support/people'
import { PUBLIC } from './support/places'

test('a plain address stands on the page, and clicks on it are counted by beacon and by ping', async ({
  browser,
  page,
}) => {
  const address = freshName('plain')
  await startEmpty(page, address)
  await page
    .getByLabel('Paste an address to add a button')
    .fill('Kiln parts https://partner.example/kilns?ref=quarrow')
  await page.keyboard.press('Enter')
  await row(page, 'Kiln parts').locator('.piece').click()
  await page.getByLabel('Plain address on the page').click()
  await page.getByRole('button', { name: 'Close the editor' }).click()
  await publish(page)

  // With a script the beacon tells of the click, and the ping is put off; without one the ping does.
  for (const [device, javaScriptEnabled, tellsBy] of [
    ['iPhone 14', true, 'beacon'],
    ['Pixel 7', false, 'ping'],
  ] as const) {
    const context = await browser.newContext({ ...devices[device], javaScriptEnabled })
    await context.route('https://partner.example/**', (route) =>
      route.fulfill({ contentType: 'text/html', body: '<title>Partner</title>' }),
    )
    const visitor = await context.newPage()
    const told: string[] = []
    context.on('request', (request) => {
      if (request.method() === 'POST') told.push(request.resourceType())
    })
    await visitor.goto(`${PUBLIC}/${address}`)
    const partner = visitor.getByRole('link', { name: 'Kiln parts' })
    await expect(partner).toHaveAttribute('href', 'https://partner.example/kilns?ref=quarrow')
    await partner.click()
    await expect(visitor).toHaveTitle('Partner')
    await expect.poll(() => told.length, `told by ${tellsBy}`).toBe(1)
    await context.close()
  }
  await expect(row(page, 'Kiln parts').locator('.total')).toHaveText('≥\u00a02')
})
