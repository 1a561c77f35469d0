import { expect, test } from '@playwright/test'
import { expectCleanAtBothSizes } from './support/axe'
import { settled } from './support/lines'
import { freshName, paste, publish, startEmpty } from './support/people'
import { PUBLIC } from './support/places'

test('what a post that leads to the page will show is set, seen, and on the page', async ({ page }) => {
  const name = freshName('sharing')
  await startEmpty(page, name)
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  await settled(page)
  const arrange = page.url()
  await page.goto(arrange.replace(/arrange$/, 'settings'))
  const part = page.getByRole('region', { name: 'Search and sharing' })
  await part.getByLabel('Title', { exact: true }).fill('Quarrow Clay, potter')
  await part.getByLabel('Description').fill('Pots, fired with wood')
  await part.getByLabel('Description').blur()
  await part.getByRole('radio', { name: 'an organisation' }).check()
  const card = part.getByRole('figure')
  await expect(card).toContainText('Quarrow Clay, potter')
  await expect(card).toContainText('Pots, fired with wood')
  const drawn = part.getByRole('img', { name: 'Picture shown with posts' })
  await expect.poll(() => drawn.evaluate((img: HTMLImageElement) => img.naturalWidth)).toBe(1200)
  await expectCleanAtBothSizes(page, '.view')
  await settled(page)
  await page.goto(arrange)
  await publish(page)

  const meta = async () => {
    const html = await (await page.request.get(`${PUBLIC}/${name}`)).text()
    return (property: string) =>
      new RegExp(`(?:property|name)="${property}" content="([^"]*)"`).exec(html)?.[1]
  }
  const said = await meta()
  expect(said('og:title')).toBe('Quarrow Clay, potter')
  expect(said('og:description')).toBe('Pots, fired with wood')
  expect(said('robots')).toBeUndefined()
  const picture = await page.request.get(said('og:image')!)
  expect(picture.headers()['content-type']).toBe('image/png')
  expect((await picture.body()).readUInt32BE(16)).toBe(1200)

  await page.goto(arrange.replace(/arrange$/, 'settings'))
  await part.getByLabel('Search engines may list it').uncheck()
  await settled(page)
  await page.goto(arrange)
  expect(await publish(page)).toContain('Search engines are asked to leave the page out.')
  expect((await meta())('robots')).toBe('noindex')
})
