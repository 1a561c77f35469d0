import { devices, expect, test, type Page } from '@playwright/test'
import type { Document, PageState } from './support/api'
import { freshName, startEmpty } from './support/people'
import { PUBLIC } from './support/places'

/** Blocks of every kind that answers a visitor with a page of ours. */
const BLOCKS = [
  { key: 'letter01', kind: 'signup', shown: true, signup: { title: 'The studio letter' } },
  {
    key: 'talk01',
    kind: 'booking',
    shown: true,
    booking: {
      title: 'A commission talk',
      minutes: 45,
      ahead: 30,
      hours: {
        zone: 'Europe/Lisbon',
        weekly: [{ days: ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'], from: '09:00', to: '18:00' }],
      },
    },
  },
  {
    key: 'tip01',
    kind: 'payment',
    shown: true,
    payment: { title: 'A tip', currency: 'EUR', amounts: [300, 500] },
  },
  {
    key: 'film01',
    kind: 'button',
    shown: true,
    button: { title: 'The film', address: 'https://kiln.example/film' },
    gate: { kind: 'notice', text: 'Loud fire.' },
  },
  {
    key: 'place1',
    kind: 'place',
    shown: true,
    place: { name: 'The kiln', point: { lat: 38.7, lon: -9.1 } },
  },
]

/** Publishes them in two languages, with a source, behind the scenes. */
async function publishAll(page: Page) {
  const [, id] = /pages\/([^/]+)\//.exec(page.url())!
  const headers = { origin: new URL(page.url()).origin }
  const at = `/api/pages/${id}`
  const state = (await (await page.request.get(at)).json()) as PageState
  const document = {
    ...state.document,
    blocks: BLOCKS,
    translations: [{ language: 'de', texts: { 'header/line': 'Im Holzfeuer' } }],
    header: { ...state.document.header, line: 'Wood-fired' },
  } as unknown as Document
  const saved = await page.request.put(`${at}/draft`, {
    headers,
    data: { revision: state.revision, document },
  })
  expect(saved.status(), await saved.text()).toBe(200)
  const { revision } = (await saved.json()) as PageState
  expect((await page.request.post(`${at}/publish`, { headers, data: { revision } })).status()).toBe(200)
  const source = { headers, data: { name: 'Card', tag: 'card' } }
  expect((await page.request.post(`${at}/sources`, source)).ok()).toBe(true)
  const till = {
    address: 'https://pay.example/v1',
    token: 'quarrow-till',
    secret: 'whsec_cXVhcnJvdyBjbGF5IHRpbGwgb2YgdGhlIGRlbW8hISE=',
  }
  expect((await page.request.put('/api/payment-service', { headers, data: till })).status()).toBe(200)
  return at
}

for (const [name, options] of [
  ['a phone', devices['iPhone 14']],
  ['a browser without script', { javaScriptEnabled: false, viewport: { width: 1280, height: 800 } }],
] as const)
  test(`source, language and host stay through every form and back on ${name}`, async ({ page, browser }) => {
    const address = freshName('carried')
    await startEmpty(page, address)
    const api = await publishAll(page)
    const context = await browser.newContext({ ...options, locale: 'en-GB' })
    const visitor = await context.newPage()
    const start = `${PUBLIC}/${address}/card?lang=de`
    const isBack = async () => {
      await expect(visitor).toHaveURL(start)
      await expect(visitor.locator('html')).toHaveAttribute('lang', 'de')
    }
    const back = async () => {
      await expect(visitor.locator('html')).toHaveAttribute('lang', 'de')
      await visitor.getByRole('link', { name: 'Zurück zur Seite' }).click()
      await isBack()
    }
    await visitor.goto(start)
    await isBack()

    await test.step('a sign-up form, wrong and right', async () => {
      const form = visitor.locator('form[action*=letter01]')
      await form.getByRole('textbox').first().fill(`mia@${address}.example`)
      await form.getByRole('button').click()
      await expect(visitor.getByRole('heading', { level: 1 })).toBeVisible()
      await back()
    })
    await test.step('a form for bookings, left and sent', async () => {
      await visitor.locator('.booking a').click()
      await back()
      await visitor.locator('.booking a').click()
      await visitor.locator('input[name=time]').first().check()
      await visitor.locator('input[name=name]').fill('Mia')
      await visitor.locator('input[name=address]').fill(`mia@${address}.example`)
      await visitor.locator('form button').click()
      await expect(visitor).toHaveURL(/\/-\/booking\//)
      await back()
    })
    await test.step('a payment that fails', async () => {
      await visitor.locator('form.pay button').click()
      await visitor.getByRole('button', { name: 'Let it fail' }).click()
      await expect(visitor).toHaveURL(/\/-\/paid\//)
      await back()
    })
    await test.step('a notice, and directions', async () => {
      await visitor.getByRole('link', { name: 'The film' }).click()
      await expect(visitor.getByText('Loud fire.')).toBeVisible()
      expect(new URL(visitor.url()).searchParams.get('lang')).toBe('de')
      await visitor.goto(start)
      await visitor.locator('.place a.button').click()
      await back()
    })
    await context.close()

    // All of it is one visit from the card.
    await expect
      .poll(async () => {
        const readings = await (await page.request.get(`${api}/readings?range=7d`)).json()
        const [card] = readings.sources as { id: string }[]
        return [readings.total.visits, readings.bySource[card!.id]?.visits]
      })
      .toEqual([1, 1])
  })
