import { gunzipSync } from 'node:zlib'
import { get } from 'node:http'
import { expect, test } from '@playwright/test'
import { HtmlValidate } from 'html-validate'
import { PUBLIC } from './support/places'

/** What goes over the wire for a page, compressed as browsers ask for it. */
function overTheWire(address: string): Promise<Buffer> {
  return new Promise((resolve, reject) => {
    get(address, { headers: { 'Accept-Encoding': 'gzip' } }, (answer) => {
      const parts: Buffer[] = []
      answer.on('data', (part: Buffer) => parts.push(part))
      answer.on('end', () => resolve(Buffer.concat(parts)))
    }).on('error', reject)
  })
}

for (const [path, scripts] of [
  ['quarrow-clay/loft', 'but that of its film'],
  ['quarrow-workshops', 'at all'],
] as const) {
  test(`${path} is valid HTML, in the first ten segments, and without a script ${scripts}`, async () => {
    const packed = await overTheWire(`${PUBLIC}/${path}`)
    // RFC 6928: an initial window of ten segments.
    expect(packed.length).toBeLessThanOrEqual(14_000)
    const html = gunzipSync(packed).toString()
    const ours = html.match(/<script(?! type="application\/ld\+json")[^]*?<\/script>/g) ?? []
    expect(ours.map((script) => script.includes('data-frame'))).toEqual(scripts === 'at all' ? [] : [true])
    // The WHATWG HTML standard, as html-validate holds pages against it.
    const report = await new HtmlValidate({ extends: ['html-validate:standard'] }).validateString(html)
    expect(
      report.results.flatMap((result) =>
        result.messages.map((message) => `${message.line}: ${message.message}`),
      ),
    ).toEqual([])
  })
}

for (const width of [360, 1280]) {
  test(`nothing is cut off or shifts at ${width} px`, async ({ browser }) => {
    const page = await browser.newPage({ viewport: { width, height: 780 } })
    const said: string[] = []
    page.on('console', (message) => said.push(message.text()))
    await page.addInitScript(() => {
      Object.assign(window, { shifted: 0 })
      new PerformanceObserver((list) => {
        for (const entry of list.getEntries())
          (window as unknown as { shifted: number }).shifted += (entry as unknown as { value: number }).value
      }).observe({ type: 'layout-shift', buffered: true })
    })
    await page.goto(`${PUBLIC}/quarrow-clay/loft`, { waitUntil: 'networkidle' })
    const faults = await page.evaluate(() => ({
      sideways: document.documentElement.scrollWidth - document.documentElement.clientWidth,
      small: Array.from(document.querySelectorAll('.button')).filter(
        (each) => each.getBoundingClientRect().height < 44,
      ).length,
      missing: Array.from(document.images).filter(
        (each) => each.loading !== 'lazy' && each.naturalWidth === 0,
      ).length,
      shifted: (window as unknown as { shifted: number }).shifted,
    }))
    expect(faults).toEqual({ sideways: 0, small: 0, missing: 0, shifted: 0 })
    expect(said, 'nothing is refused by the policy').toEqual([])
    await page.close()
  })
}
