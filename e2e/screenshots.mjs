// Takes the pictures in docs/screenshots from the demo, which must be running
// freshly loaded: `make demo` in one terminal, `make screenshots` in another.
import { chromium } from '@playwright/test'

const to = process.argv[2] ?? '../docs/screenshots'
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
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
  await page.getByText(/changes? waiting/).waitFor()
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
  if (views.includes('icon-picker')) {
    await page.getByRole('button', { name: 'Edit the profile icons' }).click()
    await page.getByRole('button', { name: 'Icon: camera' }).click()
    await page.getByLabel('What it shows, or whose it is').fill('kitchen')
    await page.getByRole('dialog').getByRole('button', { name: 'cooking pot', exact: true }).waitFor()
    await shot('icon-picker')
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: 'Close the editor' }).click()
  }
  await page.getByRole('button', { name: 'Publish' }).click()
  await shot('publish')
  await page.keyboard.press('Escape')
  await page.getByRole('link', { name: 'Look', exact: true }).click()
  await page.getByRole('button', { name: 'Signal' }).waitFor()
  await shot('look')
  await page.getByRole('link', { name: 'Sources' }).click()
  await page.getByRole('heading', { name: /we know where/ }).waitFor()
  await shot('sources')
  if (views.includes('source')) {
    await page.getByRole('link', { name: 'Code and steps for Printed card' }).click()
    await page.getByText('The page’s picture in the middle').click()
    await page.getByLabel('Code', { exact: true }).last().fill('#1f4d3a')
    await page.getByText('drawn at the highest level').waitFor()
    await shot('source')
  }
  await page.getByRole('link', { name: 'Readings' }).click()
  await page.locator('canvas').waitFor()
  await shot('readings')
  if (views.includes('campaign')) {
    await page.getByRole('link', { name: 'Shelf' }).click()
    await page.getByLabel('Destination').fill('https://quarrow.example/kiln-openings?utm_medium=web#dates')
    await page.getByLabel('Source').fill('Studio Letter')
    await page.getByLabel('Medium').fill('email')
    await page.getByLabel('Campaign utm_campaign').fill('winter_firing')
    await page.locator('output').waitFor()
    await page.evaluate(() => window.scrollTo(0, document.body.scrollHeight))
    await shot('campaign')
  }
  if (views.includes('shelf')) {
    await page.getByRole('link', { name: 'Shelf' }).click()
    await page.getByRole('link', { name: 'seconds-sale' }).click()
    await page.getByRole('complementary', { name: /^Short link/ }).waitFor()
    await shot('shelf')
  }
  await page.getByRole('link', { name: 'Settings' }).click()
  await shot('settings')
  await page.context().close()
}

const wide = { viewport: { width: 1280, height: 800 } }
const phone = { viewport: { width: 390, height: 844 }, deviceScaleFactor: 2, hasTouch: true }
await shots('', wide, [
  'arrange',
  'arrange-editor',
  'icon-picker',
  'look',
  'publish',
  'sources',
  'source',
  'readings',
  'campaign',
  'shelf',
])
await shots('-phone', phone, ['arrange', 'arrange-editor', 'sources', 'readings'])
await shots('-dark', { ...wide, colorScheme: 'dark' }, ['arrange'])
for (const [name, options] of [
  ['page', wide],
  ['page-phone', phone],
]) {
  const context = await browser.newContext(options)
  const page = await context.newPage()
  await page.goto('http://127.0.0.1:8090/quarrow-clay/loft')
  await page.screenshot({ path: `${to}/${name}.png` })
  await context.close()
}
/** A shop begun from a starter, and the choice it was begun from. */
async function begun() {
  const page = await signedIn({ ...wide })
  const made = await page.request.post('/api/pages', { data: { address: 'quarrow-shop' } })
  const { id } = made.ok()
    ? await made.json()
    : (await (await page.request.get('/api/pages')).json()).find((each) => each.address === 'quarrow-shop')
  await page.goto(`/pages/${id}/starters`)
  await page.getByRole('button', { name: /^Makers and potters/ }).waitFor()
  await page.waitForTimeout(800)
  await page.screenshot({ path: `${to}/starters.png` })
  const [state, themes, starters] = await Promise.all(
    ['', '/themes', '/starters'].map(async (path) =>
      (await page.request.get(`/api/pages/${id}${path}`)).json(),
    ),
  )
  const { document } = starters.find((each) => each.id === 'maker')
  document.look = themes.find((each) => each.id === 'oxblood').look
  const saved = await page.request.put(`/api/pages/${id}/draft`, {
    data: { revision: state.revision, document },
  })
  await page.request.post(`/api/pages/${id}/publish`, { data: { revision: (await saved.json()).revision } })
  await page.context().close()
}
await begun()
for (const name of ['quarrow-shop']) {
  const context = await browser.newContext(phone)
  const page = await context.newPage()
  await page.goto(`http://127.0.0.1:8090/${name}`)
  await page.waitForTimeout(400)
  await page.screenshot({ path: `${to}/page-phone-${name.replace('quarrow-', '')}.png` })
  await context.close()
}
await browser.close()
