import { expect, test, type Browser, type Page } from '@playwright/test'
import { expectClean, expectCleanAtBothSizes } from './support/axe'
import { settled } from './support/lines'
import { freshName, publish, startEmpty } from './support/people'
import { PUBLIC, STANDINS, STUDIO } from './support/places'
import { PHONE } from './support/sizes'

/** Puts a code on the page that is open, and publishes it. */
async function putOn(page: Page, code: string, asked = true) {
  const arrange = page.url()
  await page.goto(arrange.replace(/arrange$/, 'settings'))
  const part = page.getByRole('region', { name: 'Tracking codes' })
  await part.getByRole('button', { name: 'Add a tracking code' }).click()
  await part.getByLabel('Whose code it is').fill('Kiln statistics')
  await part.getByLabel('The code', { exact: true }).fill(code)
  await part.getByRole('button', { name: 'Put it on the page' }).click()
  if (!asked) await part.getByLabel('Visitors are asked').uncheck()
  return { part, arrange }
}

/** A visitor's window, and where what it asks for comes from. */
async function visitorOf(browser: Browser, size: object, header: Record<string, string> = {}) {
  const context = await browser.newContext({ ...size, extraHTTPHeaders: header })
  const visitor = await context.newPage()
  const asked = new Set<string>()
  visitor.on('request', (request) => asked.add(new URL(request.url()).origin))
  return { visitor, asked }
}

const hits = async (page: Page, site: string) =>
  Number(await (await page.request.get(`${STANDINS}/web/stats.example/hits?site=${site}`)).text())

test('a tracking code runs for visitors who agree, and for nobody else', async ({ page, browser }) => {
  const site = freshName('site')
  await startEmpty(page, site)
  const { part, arrange } = await putOn(
    page,
    `<script async data-site="${site}" src="https://stats.example/count.js"></script>`,
  )
  await expect(part.getByText(/^Each visitor loads 0\.\d kB for it/)).toBeVisible()
  await expect(part.getByLabel('Hosts it may talk to')).toHaveValue('stats.example')
  await expectCleanAtBothSizes(page, '.view')
  await settled(page)
  await page.goto(arrange)
  await publish(page)

  const { visitor, asked } = await visitorOf(browser, PHONE)
  await visitor.goto(`${PUBLIC}/${site}`, { waitUntil: 'networkidle' })
  const notice = visitor.getByRole('region', { name: 'What may look on' })
  await expect(notice).toContainText('Kiln statistics')
  await expect(notice).toContainText('stats.example')
  expect([...asked], 'nothing is loaded before').toEqual([PUBLIC])
  const [yes, no] = await Promise.all(
    ['Allow', 'Refuse'].map((name) => notice.getByRole('button', { name }).boundingBox()),
  )
  expect([yes?.width, yes?.height], 'both are as easy to press').toEqual([no?.width, no?.height])
  await expectClean(visitor, 'body')
  await notice.getByRole('button', { name: 'Refuse' }).click()
  await visitor.reload({ waitUntil: 'networkidle' })
  await expect(notice).toBeHidden()
  expect(await hits(page, site)).toBe(0)

  await visitor.getByRole('button', { name: 'What may look on' }).click()
  await notice.getByRole('button', { name: 'Allow' }).click()
  await expect.poll(() => hits(page, site)).toBe(1)
  await visitor.reload({ waitUntil: 'networkidle' })
  await expect.poll(() => hits(page, site)).toBe(2)
  await visitor.context().close()

  const shy = await visitorOf(browser, PHONE, { 'Sec-GPC': '1' })
  await shy.visitor.goto(`${PUBLIC}/${site}`, { waitUntil: 'networkidle' })
  await expect(shy.visitor.getByRole('button', { name: 'Allow' })).toHaveCount(0)
  await shy.visitor.context().close()
})

test('a code that need not ask runs at once, and never for whoever keeps the page', async ({
  page,
  browser,
}) => {
  const site = freshName('unasked')
  await startEmpty(page, site)
  const { arrange } = await putOn(
    page,
    `<script data-site="${site}" src="https://stats.example/count.js"></script>`,
    false,
  )
  await settled(page)
  await page.goto(arrange)
  await publish(page)
  const { visitor } = await visitorOf(browser, PHONE)
  await visitor.goto(`${PUBLIC}/${site}`)
  await expect.poll(() => hits(page, site)).toBe(1)
  await visitor.context().close()

  // The address in the top line leads a member's browser by way of its own mark.
  const { address } = (await (await page.request.get(`${STUDIO}/api/own-phone`)).json()) as {
    address: string
  }
  await page.goto(address)
  await page.goto(`${PUBLIC}/${site}`, { waitUntil: 'networkidle' })
  expect(await hits(page, site)).toBe(1)
})

test('a tracking code cannot reach the studio, nor talk to a host that is not named', async ({
  page,
  browser,
}) => {
  const site = freshName('nosy')
  await startEmpty(page, site)
  const nosy = `<script>
    window.found = [];
    const ask = (name, what) => what.then(() => found.push(name), () => found.push('no ' + name));
    ask('studio', fetch('${STUDIO}/api/me', { credentials: 'include' }));
    ask('elsewhere', fetch('${STANDINS}/web/stats.example/hits', { mode: 'no-cors' }));
    found.push('cookies:' + document.cookie);
    const image = new Image(); image.onload = () => found.push('image'); image.onerror = () => found.push('no image');
    image.src = '${STANDINS}/web/quarrow.example/picture.png';
    try { eval('1'); found.push('eval') } catch { found.push('no eval') }
    const script = document.createElement('script'); script.text = 'found.push("injected")'; document.body.append(script);
    const frame = document.createElement('iframe'); frame.src = '${STUDIO}/'; document.body.append(frame);
  </script>`
  const { arrange } = await putOn(page, nosy, false)
  await settled(page)
  await page.goto(arrange)
  await publish(page)
  const { visitor } = await visitorOf(browser, {})
  await visitor.goto(`${PUBLIC}/${site}`, { waitUntil: 'networkidle' })
  await expect
    .poll(() => visitor.evaluate(() => [...(window as unknown as { found: string[] }).found].sort()))
    .toEqual(['cookies:', 'no elsewhere', 'no eval', 'no image', 'no studio'])
  await visitor.context().close()
})

test('what is no tracking code is refused with what to do, and the rest is kept', async ({ page }) => {
  await startEmpty(page, freshName('no-code'))
  const { part } = await putOn(page, '<form action="https://evil.example"></form>')
  await expect(part.getByRole('alert')).toContainText('take <form> out of it')
  await expect(part.getByText('not saved, and does not run')).toBeVisible()
  await part
    .getByLabel('The code', { exact: true })
    .fill('<script src="https://stats.example/count.js"></script>')
  await settled(page)
  await expect(part.getByText('not saved, and does not run')).toBeHidden()
})
