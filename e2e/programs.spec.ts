import { createHmac } from 'node:crypto'
import { expect, request, test } from '@playwright/test'
import { expectCleanAtBothSizes } from './support/axe'
import { settled } from './support/lines'
import { freshName, PASSWORD, paste, publish, startEmpty } from './support/people'
import { STANDINS, STUDIO } from './support/places'

interface Message {
  header: Record<string, string>
  body: string
  status: number
}

test('a token is made, shown once, does what it may, and is ended', async ({ page }) => {
  await startEmpty(page, freshName('tokens'))
  await page.goto('/settings/programs')
  await page.getByRole('button', { name: 'Make a token' }).click()
  await page.getByLabel('What it is for').fill('The shop')
  await page.getByLabel('Your password').fill(PASSWORD)
  await expectCleanAtBothSizes(page, '.view')
  await page.getByRole('button', { name: 'Make it' }).click()
  const shown = page.getByRole('status').locator('code')
  const token = (await shown.textContent())!
  await expectCleanAtBothSizes(page, '.view')
  await page.getByRole('button', { name: 'I have it' }).click()
  await expect(shown).toBeHidden()

  const program = await request.newContext({ extraHTTPHeaders: { Authorization: `Bearer ${token}` } })
  expect((await program.get(`${STUDIO}/api/pages`)).status()).toBe(200)
  const refused = await program.post(`${STUDIO}/api/pages`, { data: { address: freshName('by-token') } })
  expect(refused.status()).toBe(403)
  await page.reload()
  await expect(page.getByText('Used last')).toBeVisible()
  await page.getByRole('button', { name: 'End the token The shop' }).click()
  await expect(page.getByText('The shop')).toBeHidden()
  expect((await program.get(`${STUDIO}/api/pages`)).status()).toBe(401)
  await program.dispose()
})

test('a webhook is told, signed, of what is published, and its log sends again', async ({ page }) => {
  const path = `/${freshName('hook')}`
  const messages = async () =>
    (await (await page.request.get(`${STANDINS}/messages.json?path=${path}`)).json()) as Message[]
  await startEmpty(page, freshName('webhooks'))
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  await settled(page)
  const arrange = page.url()
  await page.goto('/settings/programs')
  await page.getByRole('button', { name: 'Add a webhook' }).click()
  await page.getByLabel('Where messages go').fill(`http://hooks.example${path}`)
  await page.getByRole('button', { name: 'Have it told' }).click()
  await expect(page.getByText('begins with https://')).toBeVisible()
  await expectCleanAtBothSizes(page, '.view')
  await page.getByLabel('Where messages go').fill(`https://hooks.example${path}`)
  await page.getByRole('button', { name: 'Have it told' }).click()
  await page.getByRole('link', { name: `https://hooks.example${path}` }).click()
  await page.getByRole('button', { name: 'Show it' }).click()
  const secret = (await page.locator('code').textContent())!
  const webhook = page.url()

  await page.goto(arrange)
  await publish(page)
  await expect.poll(async () => (await messages()).length).toBe(1)
  const [{ header, body }] = (await messages()) as [Message]
  expect((JSON.parse(body) as { type: string }).type).toBe('page.published')
  const key = Buffer.from(secret.replace('whsec_', ''), 'base64')
  const signed = `${header['webhook-id']}.${header['webhook-timestamp']}.${body}`
  expect(header['webhook-signature']).toBe(`v1,${createHmac('sha256', key).update(signed).digest('base64')}`)

  await page.goto(webhook)
  await expect(page.getByText('Arrived, answered 204.')).toBeVisible()
  await page.getByRole('button', { name: /^Send again: A page was published/ }).click()
  await expect.poll(async () => (await messages()).length).toBe(2)
  expect((await messages())[0]!.header['webhook-id']).toBe(header['webhook-id'])
  await page.getByText('What it said').first().click()
  await expectCleanAtBothSizes(page, '.view')
})

test('what programs can do is a page that can be read', async ({ page }) => {
  await page.goto(`${STUDIO}/api/guide`)
  await page.getByRole('link', { name: 'short-links', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'GET /api/short-links', exact: true })).toBeInViewport()
  await expectCleanAtBothSizes(page, 'section:has(#on-short-links)')
})

test('what does not arrive is tried again, and the log says why', async ({ page }) => {
  const address = `https://hooks.example/answers/503/${freshName('hook')}`
  await startEmpty(page, freshName('failing'))
  await page.goto('/settings/programs')
  await page.getByRole('button', { name: 'Add a webhook' }).click()
  await page.getByLabel('Where messages go').fill(address)
  await page.getByRole('button', { name: 'Have it told' }).click()
  await page.getByRole('link', { name: address }).click()
  await page.getByRole('button', { name: 'Send a message to try it' }).click()
  await expect(page.getByText('It answered 503. Tried again')).toBeVisible()
  await page.getByText('It is told of these').click()
  await expect(page.getByText('Off since')).toBeVisible()
})
