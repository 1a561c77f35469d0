import { devices, expect, test } from '@playwright/test'
import { expectCleanEverywhere } from './support/axe'
import { letterTo } from './support/letters'
import { browserAt, entriesOn, setName } from './support/ownDomain'
import { add, emailOf, freshName, publish, startEmpty } from './support/people'
import { PUBLIC, TLS_PORT } from './support/places'
import { readCode } from './support/readCode'
import { PHONE } from './support/sizes'

test('a domain of one’s own is set up, used and lost', async ({ page }) => {
  const name = freshName('own')
  const host = `links.${name}.example`
  const origin = `https://${host}:${TLS_PORT}`
  await startEmpty(page, name)
  await add(page, 'https://kiln.example/dates', 'Dates')
  await publish(page)
  const arrange = page.url()

  await page.goto('/settings')
  await page.getByRole('link', { name: 'Set up your domain' }).click()
  await page.getByLabel('Domain', { exact: true }).fill(`https://${host}/`)
  await page.getByRole('button', { name: 'Add it' }).click()
  const card = page.getByRole('region', { name: host })
  await expect(card.getByText('Not yet in use')).toBeVisible()
  const [proof, points] = await entriesOn(page)
  expect([proof?.type, proof?.name, points?.type, points?.value]).toEqual([
    'TXT',
    `_jundle.${host}`,
    'CNAME',
    'pages.jundle.example',
  ])
  await expectCleanEverywhere(page, '.view')

  // What is set is found, one after the other.
  await setName(page.request, proof!)
  await card.getByRole('button', { name: 'Look now' }).click()
  await expect(card.getByText('The entry that proves it was found.')).toBeVisible()
  await setName(page.request, { name: host, type: 'A', value: '203.0.113.9' })
  await card.getByRole('button', { name: 'Look now' }).click()
  await expect(card.getByText('It leads to 203.0.113.9, which is not here.')).toBeVisible()
  await setName(page.request, { name: host, type: 'A', value: '203.0.113.9' }, '/names/remove')
  const wrong = { name: host, type: 'CNAME', value: `pages.jundle.example.${host}` }
  await setName(page.request, wrong)
  await card.getByRole('button', { name: 'Look now' }).click()
  await expect(
    card.getByText(`Its CNAME entry names ${wrong.value}. Change its value to pages.jundle.example.`),
  ).toBeVisible()
  await setName(page.request, wrong, '/names/remove')
  await setName(page.request, points!)
  await card.getByRole('button', { name: 'Look now' }).click()
  await expect(card.getByText('In use', { exact: true })).toBeVisible({ timeout: 60_000 })
  await expectCleanEverywhere(page, '.view')

  // The page is there by TLS, and the old address leads on to it.
  const browser = await browserAt(page.request, host)
  const visitor = await browser.newPage({ userAgent: devices['Pixel 7'].userAgent, ...PHONE })
  await visitor.goto(`${origin}/`)
  await expect(visitor.getByRole('link', { name: 'Dates' })).toBeVisible()
  await expect(visitor.locator('link[rel=canonical]')).toHaveAttribute('href', `${origin}/`)
  await visitor.goto(`${PUBLIC}/${name}`)
  expect(visitor.url()).toBe(`${origin}/${name}`)
  await expect(visitor.getByRole('link', { name: 'Dates' })).toBeVisible()
  await visitor.goto(`${origin}/sitemap.xml`)
  await expect(visitor.locator('body')).toContainText(`${origin}/`)

  // Addresses in the studio are those of the domain.
  await page.goto(arrange.replace(/arrange$/, 'settings'))
  await expect(page.getByText(`${origin}/`, { exact: true })).toBeVisible()
  await page.goto('/shelf')
  await expect(page.getByText(`${host}:${TLS_PORT}`).filter({ visible: true }).first()).toBeVisible()

  // So are QR codes, as a phone reads them.
  const id = /pages\/([^/]+)/.exec(arrange)![1]!
  const headers = { origin: new URL(arrange).origin }
  const added = await page.request.post(`/api/pages/${id}/sources`, {
    headers,
    data: { name: 'Printed card' },
  })
  const source = (await added.json()) as { id: string; tag: string }
  const code = await page.request.get(`/api/pages/${id}/sources/${source.id}/code?format=png`)
  expect(readCode(await code.body())).toBe(`${origin}/${name}/${source.tag}`)

  // It stops pointing here: its owner is told, visitors are not.
  await setName(page.request, points!, '/names/remove')
  const { domains } = (await (await page.request.get('/api/domains')).json()) as {
    domains: { id: string }[]
  }
  for (let looks = 0; looks < 2; looks++) await page.request.post(`/api/domains/${domains[0]!.id}/check`)
  await page.goto('/settings/domains')
  await expect(card.getByText('Leads elsewhere', { exact: true })).toBeVisible()
  await expectCleanEverywhere(page, '.view')
  await letterTo(page.request, emailOf(name), /no longer leads to your pages$/)
  await expect(async () => {
    await visitor.goto(`${PUBLIC}/${name}`)
    expect(visitor.url()).toBe(`${PUBLIC}/${name}`)
  }).toPass()
  await expect(visitor.getByRole('link', { name: 'Dates' })).toBeVisible()
  await browser.close()
})
