import { expect, test, type Page } from '@playwright/test'
import { freshName, publish, row, startEmpty } from './support/people'
import { PUBLIC } from './support/places'
import { SIZES } from './support/sizes'

/** Has the page hold buttons of those titles, as if they had been typed. */
async function hold(page: Page, buttons: Record<string, string>) {
  const [{ id }] = (await (await page.request.get('/api/pages')).json()) as { id: string }[]
  const { revision, document } = await (await page.request.get(`/api/pages/${id}`)).json()
  document.blocks = Object.entries(buttons).map(([title, address], i) => ({
    key: `block${i}`,
    kind: 'button',
    shown: true,
    button: { title, address },
  }))
  const saved = await page.request.put(`/api/pages/${id}/draft`, { data: { revision, document } })
  expect(saved.status()).toBe(200)
  await page.reload()
  await expect(row(page, Object.keys(buttons)[0] ?? '').first()).toBeVisible()
}

for (const size of SIZES)
  test.describe(size.name, () => {
    test.use(size.options)

    test('the page check names what is wrong, mends it, and all addresses are walked', async ({ page }) => {
      await startEmpty(page, freshName('check'))
      await hold(page, {
        'Click here': 'https://quarrow.example/stockists',
        'Where to find our pots': 'https://quarrow.example/stockists?utm_source=card',
        'The shop': 'https://your-site.example/shop',
      })
      await page.getByRole('link', { name: 'Check', exact: true }).click()
      const found = page.getByRole('list', { name: 'What was found' })
      await expect(found.getByRole('listitem')).toHaveCount(3)
      await expect(found).toContainText('It still leads to https://your-site.example/shop')
      await expect(found).toContainText('“Click here” does not say where it leads.')
      await expect(page.getByText('1 fault, 2 things that could be better')).toBeVisible()
      await found.getByRole('button', { name: 'Hide it: The shop' }).click()
      await expect(found.getByRole('listitem')).toHaveCount(2)
      await found.getByRole('link', { name: 'Open Click here' }).click()
      await expect(row(page, 'Click here')).toBeVisible()
      await expect(page.getByRole('complementary').getByRole('textbox', { name: 'Title' })).toHaveValue(
        'Click here',
      )
      await page.getByRole('link', { name: 'Check', exact: true }).click()

      await page.getByRole('link', { name: 'Walk them all' }).click()
      const stop = page.getByRole('region', { name: '1 of 2' })
      const opened = page.waitForEvent('popup')
      await stop.getByRole('link', { name: 'Open it' }).click()
      await (await opened).close()
      await stop.getByRole('button', { name: 'Right' }).click()
      await page.getByRole('region', { name: '2 of 2' }).getByRole('button', { name: 'Wrong' }).click()
      await expect(page.getByRole('heading', { name: '1 leads to the wrong place' })).toBeVisible()
      await page.getByRole('link', { name: 'Mend it Where to find our pots' }).click()
      await expect(page.getByRole('complementary').getByRole('textbox', { name: 'Title' })).toHaveValue(
        'Where to find our pots',
      )
    })
  })

test('addresses of the page are asked, and one that answers is no finding', async ({ page }) => {
  await startEmpty(page, freshName('asked'))
  await hold(page, { Stockists: 'https://quarrow.example/stockists' })
  await page.getByRole('link', { name: 'Check', exact: true }).click()
  await expect(page.getByText('1 address has not been asked yet')).toBeVisible()
  await page.getByRole('button', { name: 'Ask all addresses now' }).click()
  await expect(page.getByText('has not been asked yet')).toHaveCount(0, { timeout: 60_000 })
  await expect(page.getByText('Everything leads somewhere, says where, and can be seen.')).toBeVisible()
  await page.getByRole('link', { name: 'Walk them all' }).click()
  await expect(page.getByText('It answers.')).toBeVisible()
})

/** On how many lines each title stands on the page as a visitor's phone shows it. */
const linesOfTitles = (visitor: Page) =>
  visitor.locator('.button .title').evaluateAll((titles) =>
    titles.map((title) => {
      const range = document.createRange()
      range.selectNodeContents(title)
      return new Set(Array.from(range.getClientRects(), ({ top }) => Math.round(top))).size
    }),
  )

for (const size of SIZES)
  test.describe(size.name, () => {
    test.use(size.options)

    test('a title wraps in Arrange and in the check as it does on a small phone', async ({
      page,
      browser,
    }) => {
      const address = freshName('wraps')
      await startEmpty(page, address)
      const words =
        'All the kiln opening dates of this year with what was fired and who was there then'.split(' ')
      const titles = words.map((_, i) => words.slice(0, i + 1).join(' ')).filter((title) => title.length > 18)
      await hold(page, Object.fromEntries(titles.map((title, i) => [title, `https://quarrow.example/${i}`])))
      await publish(page)
      const context = await browser.newContext({ viewport: { width: 360, height: 740 } })
      const visitor = await context.newPage()
      await visitor.goto(`${PUBLIC}/${address}`)
      await visitor.evaluate(() => document.fonts.ready)
      const lines = await linesOfTitles(visitor)
      expect(new Set(lines).size, 'some wrap and some do not').toBeGreaterThan(2)
      await context.close()

      for (const [i, title] of titles.entries()) {
        const chip = page.locator('.rows > li').nth(i).locator('.wraps')
        if (lines[i] === 1) await expect(chip, title).toHaveCount(0)
        else await expect(chip, title).toContainText(`Its title takes ${lines[i]} lines`)
      }
      await page.getByRole('link', { name: 'Check', exact: true }).click()
      const found = page.getByRole('list', { name: 'What was found' }).getByRole('listitem')
      const wrapped = titles.flatMap((title, i) => (lines[i]! > 1 ? [[title, lines[i]!] as const] : []))
      for (const [title, n] of wrapped)
        await expect(
          found
            .filter({ hasText: title })
            .filter({ hasText: `Its title takes ${n} lines on a phone of 360 pixels.` }),
        ).not.toHaveCount(0)
      await expect(found.filter({ hasText: 'Its title takes' })).toHaveCount(wrapped.length)
    })
  })
