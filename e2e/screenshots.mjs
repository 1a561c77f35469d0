// Takes the pictures in docs/screenshots from the demo, which must be running
// freshly loaded: `JUNDLE_FLOOD_BUDGET=100000 make demo` in one terminal, because all visitors of the trial
// come from one address, and `make screenshots` in another.
import { chromium } from '@playwright/test'

const to = process.argv[2] ?? '../docs/screenshots'
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium-headless-shell',
  args: ['--no-sandbox', '--disable-quic', '--no-first-run'],
})

async function signedIn(options) {
  const context = await browser.newContext({ baseURL: 'http://localhost:8080', ...options })
  const page = await context.newPage()
  page.on('console', (message) => message.type() === 'error' && console.log(message.text()))
  await page.goto('/sign-in')
  await page.getByLabel('E-mail address').fill('ilse@quarrow.example')
  await page.getByLabel('Password').fill('forty hours of fire')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await page.getByText(/(changes?|nothing) waiting/).waitFor()
  await page.getByRole('link', { name: 'Readings' }).waitFor()
  return page
}

/** Goes through the studio once and keeps the pictures of the views asked for. */
async function shots(name, options, views) {
  const page = await signedIn(options)
  const shot = async (view) => {
    if (!views.includes(view)) return
    await page.mouse.move(1, 1)
    await page.waitForTimeout(600)
    await page.screenshot({ path: `${to}/${view}${name}.png` })
  }
  await page.locator('.rows li').first().waitFor()
  await shot('arrange')
  await page.locator('.rows li .piece').nth(1).click()
  await shot('arrange-editor')
  await page.getByRole('button', { name: 'Close the editor' }).click()
  await page.getByRole('link', { name: 'Look', exact: true }).click()
  await page.getByRole('button', { name: 'Signal' }).waitFor()
  await shot('look')
  await page.getByRole('link', { name: 'Sources' }).click()
  await page.getByRole('heading', { name: /we know where/ }).waitFor()
  await shot('sources')
  await page.getByRole('link', { name: 'Readings' }).click()
  await page.locator('canvas').waitFor()
  await shot('readings')
  if (views.includes('shelf')) {
    await page.getByRole('link', { name: 'Shelf' }).click()
    await page.getByRole('link', { name: 'seconds-sale' }).click()
    await page.getByRole('complementary', { name: /^Short link/ }).waitFor()
    await shot('shelf')
  }
  if (views.includes('destinations')) {
    await page.getByRole('link', { name: 'Destinations' }).click()
    await page.getByRole('link', { name: 'Kiln opening dates' }).click()
    await page.getByRole('heading', { name: 'Where it is used' }).waitFor()
    await shot('destinations')
  }
  await page.getByRole('link', { name: 'Settings' }).click()
  await shot('settings')
  await page.getByRole('link', { name: 'About this page' }).click()
  await page.getByRole('button', { name: 'Change address' }).waitFor()
  await shot('page-settings')
  await page.context().close()
}

const wide = { viewport: { width: 1280, height: 800 } }
const phone = { viewport: { width: 390, height: 844 }, deviceScaleFactor: 2, hasTouch: true }
await shots('', wide, ['arrange', 'look', 'sources', 'readings', 'shelf', 'destinations'])
await shots('-phone', phone, ['arrange', 'readings'])
{
  const context = await browser.newContext(phone)
  const page = await context.newPage()
  await page.goto('http://127.0.0.1:8090/quarrow-clay/loft')
  await page.screenshot({ path: `${to}/page-phone.png` })
  await context.close()
}
/** A shop that is begun from a starter: the choice, what is still to be filled in, and all pages. */
async function begun() {
  const page = await signedIn({ ...wide })
  const made = await page.request.post('/api/pages', { data: { address: 'quarrow-shop' } })
  const { id } = made.ok()
    ? await made.json()
    : (await (await page.request.get('/api/pages')).json()).find((each) => each.address === 'quarrow-shop')
  await page.goto(`/pages/${id}/starters`)
  await page.getByRole('button', { name: /^Makers and potters/ }).waitFor()
  await page.getByRole('button', { name: /^Makers and potters/ }).click()
  await page.locator('.rows li').first().waitFor()
  await page.locator('.standing').getByText('not published yet', { exact: true }).waitFor()
  await page.getByRole('link', { name: 'Check', exact: true }).click()
  await page.getByRole('list', { name: 'What was found' }).waitFor()
  await page.waitForTimeout(400)
  await page.screenshot({ path: `${to}/check.png` })
  await page.context().close()
}

/** One button, what the order says, and a trial with its answer. */
async function read() {
  const page = await signedIn({ ...wide })
  await page.getByRole('link', { name: 'Readings' }).click()
  await page
    .getByRole('link', { name: /^Seconds sale/ })
    .first()
    .click()
  await page.getByRole('heading', { name: 'Day by day' }).waitFor()
  await page.goto(`${page.url().split('?')[0]}?range=90d`)
  await page.getByRole('heading', { name: 'Its first days' }).waitFor()
  await page.locator('canvas').waitFor()
  await page.waitForTimeout(500)
  await page.screenshot({ path: `${to}/one-button.png` })
  const pages = await (await page.request.get('/api/pages')).json()
  const clay = pages.find((each) => each.address === 'quarrow-clay').id
  await page.goto(`/pages/${clay}/readings`)
  const order = page.getByRole('region', { name: 'What draws, whatever its place' })
  await order.getByRole('button', { name: 'Try this order' }).waitFor()
  await order.scrollIntoViewIfNeeded()
  await page.waitForTimeout(500)
  await order.screenshot({ path: `${to}/order.png` })
  await page.goto(`/pages/${clay}/trials`)
  await tried(page)
  await page.context().close()
}

async function tried(page) {
  const [asItIs, other] = ['Kiln opening dates', 'When the kiln is opened']
  await page.getByRole('combobox', { name: 'Button' }).click()
  await page.getByRole('option', { name: asItIs }).click()
  await page.getByLabel('The other title').fill(other)
  await page.getByRole('button', { name: 'Begin the trial' }).click()
  await page.getByRole('article').waitFor()
  const seen = { [asItIs]: 0, [other]: 0 }
  for (let i = 0; i < 360; i++) {
    const visitor = await browser.newContext({ userAgent: `Mozilla/5.0 (Linux; Android 13; K${i}) Mobile` })
    const html = await (await visitor.request.get('http://127.0.0.1:8090/quarrow-clay')).text()
    const title = html.includes(other) ? other : asItIs
    const link = new RegExp(`href="(/[^"]*/-/\\d+/openings)"`).exec(html)[1]
    if (seen[title]++ % 10 < (title === other ? 4 : 1))
      await visitor.request.get(`http://127.0.0.1:8090${link}`, { maxRedirects: 0 })
    await visitor.close()
  }
  await page.getByText('is pressed more so far: by').waitFor()
  await page.waitForTimeout(1500)
  await page.screenshot({ path: `${to}/trial.png` })
  await page.getByRole('button', { name: 'End it, leave it as it is' }).click()
  await page.getByRole('link', { name: 'All readings' }).click()
}

/** What programs get in with and are told, what came in, and a domain of one's own. */
async function people() {
  const page = await signedIn({ ...wide })
  const password = 'forty hours of fire'
  const send = async (method, path, data) =>
    (
      await page.request.fetch(path, { method, data, headers: { Origin: 'http://localhost:8080' } })
    ).json().catch(() => undefined) // prettier-ignore
  const pages = await send('GET', '/api/pages')
  const clay = pages.find((each) => each.address === 'quarrow-clay')
  await send('POST', '/api/api-tokens', { password, name: 'The shop', role: 'reads', days: 90 })
  const hook = await send('POST', '/api/webhooks', {
    address: 'https://hooks.example/shop', kinds: ['page.published', 'source.first_seen'], clicks: 0,
  }) // prettier-ignore
  await send('POST', `/api/webhooks/${hook.id}/trial`)
  const { revision } = await send('GET', `/api/pages/${clay.id}`)
  await send('POST', `/api/pages/${clay.id}/publish`, { revision })
  await page.waitForTimeout(3500)
  await page.goto('/settings/programs')
  await page.getByText('The shop').waitFor()
  await page.goto(`/settings/programs/webhooks/${hook.id}`)
  await page.getByText('Arrived, answered 204.').first().waitFor()
  await send('PUT', '/api/list-service', {
    address: 'https://lists.example/v1', list: 'studio-letter', token: 'quarrow-key',
  }) // prettier-ignore
  await page.goto('/sign-ups')
  await page.getByText('It is to be told of nobody more').or(page.getByText('It knows 3')).first().waitFor()
  await page.waitForTimeout(9000)
  await page.reload()
  await page.getByText('It knows').waitFor()
  await keep(page, 'sign-ups')
  await page.goto(`/pages/${clay.id}/settings`)
  const sharing = page.getByRole('region', { name: 'Search and sharing' })
  await sharing.getByRole('img').waitFor()
  await page.waitForTimeout(1500)
  await sharing.screenshot({ path: `${to}/sharing.png` })

  await takenIn(send, clay)

  await cameIn(page, send, clay)
  await bookings(page, send, clay)
  await ownDomain(page, send)
  await page.context().close()
}

/** Tips that visitors from several profiles gave. */
async function cameIn(page, send, clay) {
  const { document, revision } = await send('GET', `/api/pages/${clay.id}`)
  document.blocks.splice(2, 0, {
    key: 'kilntip1',
    kind: 'payment',
    shown: true,
    payment: {
      title: 'A tip for the kiln',
      currency: 'EUR',
      amounts: [300, 500, 1250],
      own: true,
      word: true,
    },
  })
  const saved = await send('PUT', `/api/pages/${clay.id}/draft`, { revision, document })
  await send('POST', `/api/pages/${clay.id}/publish`, { revision: saved.revision })
  const context = await browser.newContext(phone)
  const visitor = await context.newPage()
  for (const [tag, amount, word] of [
    ['loft', '€12.50', 'For the winter firing'],
    ['reel', '€5', ''],
    ['loft', '€3', 'The bowl is in daily use.'],
    ['', '€5', 'From Lisbon, with thanks'],
  ]) {
    // prettier-ignore
    await visitor.goto(`http://127.0.0.1:8090/quarrow-clay/${tag}`)
    await visitor.getByLabel(amount, { exact: true }).check()
    await visitor.getByLabel('A word with it').fill(word)
    await visitor.getByRole('button', { name: 'Pay' }).click()
    await visitor.getByRole('button', { name: 'Pay', exact: true }).click()
    await visitor
      .getByText(/Thank you|on its way/)
      .first()
      .waitFor()
  }
  await context.close()
  await page.waitForTimeout(1500)
  await page.goto('/income')
  await page.getByText('in 4 payments').waitFor()
  await keep(page, 'income')
}

/** Times that visitors from several profiles asked for, some of them answered. */
async function bookings(page, send, clay) {
  const { document, revision } = await send('GET', `/api/pages/${clay.id}`)
  document.blocks.splice(2, 0, {
    key: 'talk0001',
    kind: 'booking',
    shown: true,
    booking: {
      title: 'A commission talk',
      where: 'At the kiln',
      minutes: 45,
      notice: 24,
      ahead: 21,
      price: 2500,
      currency: 'EUR',
      hours: { zone: 'Europe/Lisbon', weekly: [{ days: ['TU', 'TH'], from: '10:00', to: '13:00' }] },
    },
  })
  const saved = await send('PUT', `/api/pages/${clay.id}/draft`, { revision, document })
  await send('POST', `/api/pages/${clay.id}/publish`, { revision: saved.revision })
  const context = await browser.newContext(phone)
  const visitor = await context.newPage()
  for (const [tag, at, name, word] of [
    ['loft', 1, 'Marta Reis', 'A tea set for four, in ash glaze if that works.'],
    ['reel', 0, 'Rolf', 'About the tall bottle in the film'],
    ['', 1, 'Ada Lund', ''],
    ['loft', 5, 'Joana', 'A wedding present: two cups and a jug'],
  ]) {
    // prettier-ignore
    await visitor.goto(`http://127.0.0.1:8090/quarrow-clay/${tag}`)
    await visitor.getByRole('link', { name: 'Ask for a time' }).click()
    await visitor.locator('details').evaluateAll((days) => days.forEach((day) => (day.open = true)))
    await visitor.getByRole('radio').nth(at).check()
    await visitor.getByLabel('Your name').fill(name)
    await visitor.getByLabel('Your e-mail address').fill(`${name.split(' ')[0].toLowerCase()}@kiln.example`)
    await visitor.getByLabel('A word with it').fill(word)
    await visitor.getByRole('button', { name: 'Ask for a time' }).click()
    await visitor.getByText('Asked for').waitFor()
  }
  await context.close()
  const asked = await send('GET', '/api/bookings')
  for (const [name, reply] of [
    ['Marta Reis', 'The gate on the left; the bell is loud.'],
    ['Joana', ''],
  ])
    await send('POST', `/api/bookings/${asked.find((one) => one.name === name).id}/answer`, {
      act: 'agree',
      reply,
    })
  await page.goto('/bookings')
  await page.getByText('Ada Lund').waitFor()
  await keep(page, 'bookings')
}

/** A domain of one's own whose entries are set half. */
async function ownDomain(page, send) {
  await page.goto('/settings/domains')
  await page.getByLabel('Domain', { exact: true }).fill('links.quarrow.example')
  await page.getByRole('button', { name: 'Add it' }).click()
  await page.getByText('Not yet in use').waitFor()
  const { domains } = await send('GET', '/api/domains')
  const [{ name, value }] = domains[0].entries
  await page.request.post('http://127.0.0.1:8099/names', { form: { type: 'TXT', name, value } })
  await page.getByRole('button', { name: 'Look now' }).click()
  await page.getByText('The entry that proves it was found.').waitFor()
  await page.evaluate(() => scrollTo(0, 0))
  await keep(page, 'own-domain')
}

/** A page with what it takes in from elsewhere: a film, a map, a feed. */
async function takenIn(send, clay) {
  const { player } = await send('POST', '/api/describe', { address: 'https://wavecastle.example/watch/forty-hours' }) // prettier-ignore
  const point = { lat: 41.15, lon: -8.61 }
  const map = await send('POST', '/api/places/map', { ...point, zoom: 16 })
  const feed = await send('POST', '/api/feeds', { address: 'https://notes.quarrow.example/' })
  const { document } = await send('GET', `/api/pages/${clay.id}`)
  const made = await send('POST', '/api/pages', { address: 'quarrow-studio' })
  const block = (kind, content) => ({ key: `${kind}01`, kind, shown: true, [kind]: content })
  const hours = {
    zone: 'Europe/Lisbon',
    weekly: [{ days: ['WE', 'TH', 'FR', 'SA'], from: '10:00', to: '18:00' }],
  }
  document.header = { ...document.header, cover: undefined, line: 'Open four days a week. Ring the bell at the blue door.' } // prettier-ignore
  document.icons.items = []
  document.blocks = [
    block('place', {
      name: 'The studio',
      address: 'Mill Lane 4, by the river',
      point,
      zoom: 16,
      hours,
      ...map,
    }),
    block('player', player),
    block('feed', {
      title: 'From the journal',
      feedId: feed.id,
      address: feed.address,
      most: 3,
      shown: 'grid',
    }),
  ]
  document.translations = [
    { language: 'de', texts: { 'blocks/place01/place/name': 'Die Werkstatt' } },
    { language: 'pt', texts: {} },
  ]
  const saved = await send('PUT', `/api/pages/${made.id}/draft`, { revision: made.revision, document })
  await send('POST', `/api/pages/${made.id}/publish`, { revision: saved.revision })
  const context = await browser.newContext(phone)
  const page = await context.newPage()
  await page.goto('http://127.0.0.1:8090/quarrow-studio', { waitUntil: 'networkidle' })
  await page.screenshot({ path: `${to}/taken-in-phone.png`, fullPage: true })
  await context.close()
}

async function keep(page, view) {
  await page.waitForTimeout(500)
  await page.screenshot({ path: `${to}/${view}.png` })
}

await read()
await begun()
await people()
await browser.close()
