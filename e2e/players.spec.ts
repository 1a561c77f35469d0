import { expect, test } from '@playwright/test'
import { freshName, publish, row, startEmpty } from './support/people'
import { PUBLIC } from './support/places'

for (const size of [
  { width: 1280, height: 800 },
  { width: 390, height: 844 },
]) {
  test(`a pasted film is played on the page once it is pressed, at ${size.width} px`, async ({
    page,
    browser,
  }) => {
    await page.setViewportSize(size)
    const address = freshName('film')
    await startEmpty(page, address)
    const line = page.getByLabel('Paste an address to add')
    await line.fill('https://reelpond.example/watch/centring')
    await line.press('Enter')
    const film = row(page, 'Centring').locator('.fragment')
    await expect(film.locator('.player img')).toBeVisible()
    await expect(film).toContainText('Reelpond')
    await publish(page)

    const phone = await browser.newContext({ viewport: size })
    const visitor = await phone.newPage()
    const asked: string[] = []
    visitor.on('request', (request) => asked.push(new URL(request.url()).origin))
    await visitor.goto(`${PUBLIC}/${address}`, { waitUntil: 'networkidle' })
    const link = visitor.getByRole('link', { name: 'Play Centring Reelpond' })
    await expect(link.locator('img')).toBeVisible()
    expect(new Set(asked), 'nothing comes from where the film is kept').toEqual(new Set([PUBLIC]))

    const told = visitor.waitForRequest((request) => request.method() === 'POST')
    await link.press('Enter')
    const frame = visitor.locator('iframe')
    await expect(frame.contentFrame().getByText('Playing: Centring')).toBeVisible()
    await expect(frame).toBeFocused()
    await expect(frame).toHaveAttribute('sandbox', /^allow-scripts/)
    const box = await frame.boundingBox()
    expect((box?.height ?? 0) / (box?.width ?? 1), 'it is as tall as the film').toBeCloseTo(640 / 360, 1)
    expect((await (await told).response())?.status()).toBe(204)
    await expect(
      visitor.getByRole('link', { name: 'Centring' }),
      'its page is still a press away',
    ).toBeVisible()
    await phone.close()

    await page.getByRole('link', { name: 'Readings' }).first().click()
    await expect(page.getByRole('row').filter({ hasText: 'Centring' }).first()).toContainText('1')
  })

  test(`without script a press leads to the film, and an address without a player says so, at ${size.width} px`, async ({
    page,
    browser,
  }) => {
    await page.setViewportSize(size)
    const phone = await browser.newContext({ viewport: size, javaScriptEnabled: false })
    const visitor = await phone.newPage()
    await visitor.goto(`${PUBLIC}/quarrow-clay`)
    await visitor.getByRole('link', { name: 'Film: forty hours of fire' }).click()
    await expect(visitor.getByRole('heading', { name: 'Forty hours of fire' })).toBeVisible()
    await phone.close()

    await startEmpty(page, freshName('no-film'))
    await page.getByRole('button', { name: 'Add a block' }).click()
    await page.getByRole('menuitem', { name: 'Film or sound', exact: true }).click()
    await page.getByRole('complementary').getByLabel('Page it is on').fill('quarrow.example/kiln-openings')
    await page.getByRole('button', { name: 'Ask for its player' }).click()
    await expect(page.getByText('This site names no player')).toBeVisible()
  })
}
