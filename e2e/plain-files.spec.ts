import { execFileSync, spawn } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test, type Page } from '@playwright/test'
import { freshName, ILSE, signIn } from './support/people'
import { findPorts, PUBLIC } from './support/places'

/** Where everything on a page stands, what it says, and which pictures and fonts have come. */
const drawn = (page: Page) =>
  page.evaluate(async () => {
    await document.fonts.ready
    Array.from(document.images, (image) => (image.loading = 'eager'))
    await Promise.all(Array.from(document.images, (image) => image.decode()))
    const boxes = Array.from(document.body.querySelectorAll('*'), (each) => {
      const { x, y, width, height } = each.getBoundingClientRect()
      const text = each.children.length ? '' : each.textContent
      return `${each.tagName} ${x} ${y} ${width} ${height} ${text}`
    })
    const fonts = Array.from(
      document.fonts as unknown as Set<FontFace>,
      ({ family, weight, status }) => `${family} ${weight} ${status}`,
    )
    return { boxes, fonts, pictures: Array.from(document.images, (image) => image.naturalWidth) }
  })

/** Serves a folder by nginx, as any web host would, until it is stopped. */
async function webHost(folder: string) {
  const port = findPorts(1)
  const scratch = mkdtempSync(join(tmpdir(), 'jundle-nginx-'))
  writeFileSync(
    join(scratch, 'nginx.conf'),
    `daemon off; pid ${scratch}/pid; error_log stderr; user root; events {}
     http { include /etc/nginx/mime.types; access_log off; client_body_temp_path ${scratch}/b; proxy_temp_path ${scratch}/p;
       fastcgi_temp_path ${scratch}/f; uwsgi_temp_path ${scratch}/u; scgi_temp_path ${scratch}/s;
       server { listen 127.0.0.1:${port}; root ${folder}; } }`,
  )
  const server = spawn('/usr/sbin/nginx', ['-c', join(scratch, 'nginx.conf'), '-p', scratch], {
    stdio: 'ignore',
  })
  const origin = `http://127.0.0.1:${port}`
  await expect
    .poll(() =>
      fetch(origin).then(
        ({ status }) => status,
        () => 0,
      ),
    )
    .toBe(200)
  return { origin, stop: () => server.kill() }
}

async function unpacked(page: Page, link: string) {
  const coming = page.waitForEvent('download')
  await page.getByRole('link', { name: link }).click()
  const file = await (await coming).path()
  const folder = mkdtempSync(join(tmpdir(), 'jundle-plain-'))
  execFileSync('python3', ['-m', 'zipfile', '-e', file, folder])
  return folder
}

test('a page as plain files is the page, on any web host', async ({ page, browser }) => {
  await signIn(page, ILSE)
  await page.getByRole('link', { name: 'About this page' }).click()
  const folder = await unpacked(page, 'Plain files (zip)')
  const host = await webHost(folder)
  const visitor = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage()
  // Of a second look, with the fonts at hand: a page does not wait for one that comes late.
  await visitor.goto(`${PUBLIC}/quarrow-clay`)
  await visitor.reload()
  // Plain files take nothing in, so a form is the one thing they leave out.
  const forms = visitor
    .getByRole('main')
    .getByRole('listitem')
    .filter({ has: visitor.locator('form') })
  await expect(forms).toHaveCount(1)
  await forms.evaluate((form) => form.remove())
  const ours = await drawn(visitor)
  const asked: string[] = []
  visitor.on('request', (request) => asked.push(new URL(request.url()).origin))
  await visitor.goto(host.origin)
  await visitor.reload()
  const theirs = await drawn(visitor)
  expect(theirs).toEqual(ours)
  expect(ours.boxes.length).toBeGreaterThan(40)
  expect(new Set(asked), 'nothing comes from anywhere else').toEqual(new Set([host.origin]))
  const leads = await visitor
    .getByRole('link')
    .evaluateAll((links) => links.map((link) => (link as HTMLAnchorElement).href))
  expect(
    leads.filter((link) => link.startsWith(PUBLIC)),
    'nothing leads through us',
  ).toEqual([])

  await page.getByText('Count presses: buttons lead through this page’s address').click()
  const counted = readFileSync(join(await unpacked(page, 'Plain files (zip)'), 'index.html'), 'utf8')
  expect(counted).toContain(`href="${PUBLIC}/quarrow-clay/-/`)
  host.stop()
  await visitor.context().close()
})

test('a page is taken along with its pictures, and taken in again beside itself', async ({ page }) => {
  await signIn(page, ILSE)
  await page.getByRole('link', { name: 'About this page' }).click()
  const coming = page.waitForEvent('download')
  await page.getByRole('link', { name: 'With its pictures (zip)' }).click()
  const file = await (await coming).path()
  await page.getByRole('banner').getByRole('link', { name: 'All pages' }).click()
  const choose = page.getByLabel('File of a page')
  await choose.setInputFiles({
    name: 'broken.json',
    mimeType: 'application/json',
    buffer: Buffer.from('{\n "format": x}'),
  })
  await expect(page.getByText('Line 2, column 12: invalid character')).toBeVisible()
  const address = freshName('again')
  await page.getByLabel('Address of another page').fill(address)
  await choose.setInputFiles(file)
  await expect(page.getByText('not published yet')).toBeVisible()
  await expect(page.getByRole('banner').getByText(new RegExp(address))).toBeVisible()
  await expect(page.locator('.rows li').first()).toBeVisible()
  // The other tests look at the demo as it was.
  await page.getByRole('link', { name: 'About this page' }).click()
  await page.getByRole('button', { name: 'Take this page down' }).click()
  await page.getByRole('alertdialog').getByRole('button', { name: 'Take down' }).click()
  await expect(page.getByText('taken down, gone for good on')).toBeVisible()
})
