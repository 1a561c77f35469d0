import { readFileSync } from 'node:fs'
import { expect, test, type Page } from '@playwright/test'
import { freshName, paste, phoneVisitor, publish, putIntoProfile, startEmpty } from './support/people'
import { PUBLIC, STANDINS, STUDIO } from './support/places'

/** Apps with a browser of their own and a user agent of each, from the vendored library data. */
const APPS = JSON.parse(readFileSync('../internal/networks/libdata/apps.json', 'utf8')) as {
  network: string
  sample: string
}[]

interface Reading {
  bySource: Record<string, { visits: number }>
  coverage: { by: string; visits: number }[]
  leftOut: { reason: string; views: number }[]
}

async function newPage(page: Page, name: string) {
  const address = freshName(name)
  await startEmpty(page, address)
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  await publish(page)
  const api = `${STUDIO}/api/pages/${new URL(page.url()).pathname.split('/')[2]}`
  const reading = async () => (await (await page.request.get(`${api}/readings?range=7d`)).json()) as Reading
  return { address, api, reading }
}

test('the browser inside each app lands in the source on its network', async ({ browser, page }) => {
  const { address, api, reading } = await newPage(page, 'in-apps')
  expect(APPS.length).toBeGreaterThan(10)
  const profiles = await page.context().newPage()
  const ids: string[] = []
  for (const [i, app] of APPS.entries()) {
    const made = await page.request.post(`${api}/sources`, {
      data: {
        name: `App ${i}`,
        place: { kind: 'profile', medium: '', profiles: [], names: [], networks: [app.network] },
      },
    })
    expect(made.status(), await made.text()).toBe(201)
    ids.push(((await made.json()) as { id: string }).id)
    await putIntoProfile(profiles, `app-${i}`, address, `${PUBLIC}/${address}`)
  }
  await profiles.close()

  for (const [i, app] of APPS.entries()) {
    const visitor = await (await browser.newContext({ userAgent: app.sample })).newPage()
    await visitor.goto(`${STANDINS}/profile/app-${i}/${address}`)
    await visitor.getByRole('link', { name: address }).click()
    await visitor.getByRole('link', { name: 'Where to find our pots' }).click()
    await visitor.context().close()
  }
  await expect
    .poll(async () => {
      const { bySource } = await reading()
      return ids.map((id) => bySource[id]?.visits)
    })
    .toEqual(APPS.map(() => 1))
  const { coverage, bySource } = await reading()
  expect(Object.fromEntries(coverage.map(({ by, visits }) => [by, visits]))).toEqual({
    tag: 0, campaign: 0, referrer: 0, app: APPS.length, untagged: 0,
  }) // prettier-ignore
  expect(Object.keys(bySource).sort()).toEqual([...ids].sort())
})

test('a place nobody listed is found by its campaign and adopted with its visits', async ({
  browser,
  page,
}) => {
  const { address, reading } = await newPage(page, 'adopting')
  await page.getByRole('link', { name: 'Sources' }).click()
  await page.getByLabel('Another place').fill('Photoloft')
  await page.getByLabel('Its own address').fill('photoloft.example/someone')
  await page.getByRole('button', { name: 'Add source' }).click()
  const photoloft = page.getByRole('row', { name: 'Photoloft' })
  await expect(photoloft).toContainText('not seen yet')

  // Each comes with a browser of its own: the same within half a minute would be one visit, repeated.
  const visit = async (version: number, path: string, referer?: string) => {
    const userAgent = `Mozilla/5.0 (Linux; Android ${version}; K) AppleWebKit/537.36 (KHTML, like Gecko) Mobile`
    const visitor = await (await browser.newContext({ userAgent })).newPage()
    await visitor.goto(`${PUBLIC}/${address}${path}`, { referer })
    await visitor.context().close()
  }
  await visit(12, '?utm_source=Potters+Guild&utm_medium=email')
  await visit(13, '', 'https://l.photoloft.example/out?u=1')
  await expect(photoloft).toContainText('seen ')

  const guild = page.getByRole('listitem').filter({ hasText: 'potters_guild' })
  await expect(guild).toContainText('1 in 28 days')
  await guild.getByRole('button', { name: 'Make potters_guild a source' }).click()
  await expect(page.getByRole('row', { name: 'potters guild' })).toContainText('seen ')
  await expect(guild).toBeHidden()
  await visit(14, '?utm_source=potters_guild')
  await expect(page.getByRole('row', { name: 'potters guild' }).locator('.visits')).toContainText('2')
  await expect
    .poll(async () => (await reading()).coverage.find(({ by }) => by === 'campaign')?.visits)
    .toBe(2)
})

test('a phone on which nobody is signed in is left out by a code', async ({ browser, page }) => {
  const { address, reading } = await newPage(page, 'own-phone')
  await page.getByRole('link', { name: 'Settings' }).click()
  await page.getByRole('button', { name: 'Show the code' }).click()
  await expect(page.getByRole('img', { name: /keeps the phone/ })).toBeVisible()
  const { address: mark } = (await (await page.request.get(`${STUDIO}/api/own-phone`)).json()) as {
    address: string
  }

  const phone = await phoneVisitor(browser)
  await phone.goto(mark)
  await expect(phone.getByRole('heading', { name: 'This phone is not counted' })).toBeVisible()
  await phone.goto(`${PUBLIC}/${address}`)
  await phone.context().close()
  await expect
    .poll(async () => (await reading()).leftOut.find(({ reason }) => reason === 'own')?.views)
    .toBe(1)
  expect((await reading()).coverage.every(({ visits }) => visits === 0)).toBe(true)
})

test('the code of a source is drawn in colour, with the picture, and refused when it cannot be read', async ({
  page,
}) => {
  const { address } = await newPage(page, 'codes')
  await page.getByRole('link', { name: 'Sources' }).click()
  await page.getByLabel('Another place').fill('Printed card')
  await page.getByRole('combobox', { name: 'Kind' }).click()
  await page.getByRole('option', { name: 'Print' }).click()
  await page.getByRole('button', { name: 'Add source' }).click()
  await page.getByRole('link', { name: 'Code and steps for Printed card' }).click()
  await expect(page.getByRole('img', { name: `${PUBLIC.slice(7)}/${address}/printed-card` })).toBeVisible()
  await expect(page.getByText('Not seen yet')).toBeVisible()
  await page.getByLabel('Code', { exact: true }).last().fill('#cccccc')
  await expect(page.getByText('The contrast is 1.6 to 1')).toBeVisible()
  await page.getByLabel('Code', { exact: true }).last().fill('#0b5d6c')
  await expect(page.getByText('Readable: the contrast is enough')).toBeVisible()
  const [svg, png] = [page.getByRole('link', { name: 'SVG' }), page.getByRole('link', { name: 'PNG' })]
  for (const [saved, kind] of [
    [svg, 'image/svg+xml'],
    [png, 'image/png'],
  ] as const) {
    const answer = await page.request.get(`${STUDIO}${await saved.getAttribute('href')}`)
    expect(answer.headers()['content-type']).toBe(kind)
    await expect(saved).toHaveAttribute('download', new RegExp(`^${address}-printed-card\\.`))
  }
  await page.getByRole('radio', { name: 'Eight cards' }).check()
  await expect(page.getByRole('figure').locator('img')).toHaveCount(8)
})

test('a tagged address is made, its values are remembered, and a slip of the finger is noticed', async ({
  page,
}) => {
  await newPage(page, 'campaign')
  await page.getByRole('link', { name: 'Shelf' }).click()
  await page.getByLabel('Destination').fill('quarrow.example/dates?utm_medium=web#top')
  await page.getByLabel('Source').fill('Studio Letter')
  await page.getByLabel('Medium').fill('email')
  const finished = page.locator('output')
  await expect(finished).toHaveText(
    'https://quarrow.example/dates?utm_medium=web&utm_source=studio_letter#top',
  )
  await expect(page.getByText('written as studio_letter')).toBeVisible()
  await expect(page.getByText('It has utm_medium already')).toBeVisible()
  await page.getByLabel('Replace tags it has already').check()
  await expect(finished).toHaveText(
    'https://quarrow.example/dates?utm_source=studio_letter&utm_medium=email#top',
  )
  await page.getByRole('button', { name: 'Copy and remember' }).click()
  await expect(page.locator('#known-source option')).toHaveAttribute('value', 'studio_letter')

  await page.getByLabel('Source').fill('studio-leter')
  await expect(page.getByText('Nearly studio_letter')).toBeHidden()
  await page.getByLabel('Source').fill('studioletter')
  await expect(page.getByText('Nearly studio_letter')).toBeVisible()
  await page.getByRole('button', { name: 'Use it' }).click()
  await expect(page.getByLabel('Source')).toHaveValue('studio_letter')
})
