import { expect, test, type Page } from '@playwright/test'
import { expectCleanEverywhere, expectCleanInBoth } from './support/axe'
import { letterTo } from './support/letters'
import { settled } from './support/lines'
import { emailOf, freshName, phoneVisitor, publish, startEmpty } from './support/people'
import { PUBLIC } from './support/places'

const VISITOR = { viewport: { width: 390, height: 844 }, javaScriptEnabled: false }

/** Puts times to ask for on the page that is open. */
async function addTimes(page: Page, price = '') {
  await page.getByRole('button', { name: 'Add a block' }).click()
  await page.getByRole('menuitem', { name: 'Times to ask for', exact: true }).click()
  const drawer = page.getByRole('complementary')
  const fill = async (label: string, text: string) => {
    await drawer.getByLabel(label, { exact: true }).fill(text)
    await drawer.getByLabel(label, { exact: true }).blur()
  }
  await fill('Title', 'A commission talk')
  await fill('Minutes', '3')
  await expect(drawer.getByText('A whole number from 5 to 720.')).toBeVisible()
  await fill('Minutes', '45')
  await fill('Where it is', 'At the kiln')
  await fill('Price', price)
  await fill('Said once you agree', 'Bring a drawing.')
  await settled(page)
  await page.getByRole('button', { name: 'Close the editor' }).click()
}

async function connectTheTill(page: Page) {
  const data = {
    address: 'https://pay.example/v1',
    token: 'quarrow-till',
    secret: 'whsec_cXVhcnJvdyBjbGF5IHRpbGwgb2YgdGhlIGRlbW8hISE=',
  }
  const headers = { origin: new URL(page.url()).origin }
  expect((await page.request.put('/api/payment-service', { headers, data })).status()).toBe(200)
}

/** Asks for the first time there is, as somebody on a phone without script. */
async function ask(visitor: Page, name: string, who: string) {
  await visitor.goto(`${PUBLIC}/${name}`)
  await visitor.getByRole('link', { name: 'Ask for a time' }).click()
  await visitor.getByRole('group', { name: 'Which time?' }).getByRole('radio').first().check()
  await visitor.getByLabel('Your name').fill(who)
  await visitor.getByLabel('Your e-mail address').fill(`${who.toLowerCase()}@${name}.example`)
  await visitor.getByLabel('A word with it').fill('About a bowl\nfor two')
  await visitor.getByRole('button', { name: 'Ask for a time' }).click()
  await expect(visitor.getByRole('heading', { name: 'Asked for' })).toBeVisible()
}

test('a visitor asks for a time, is agreed to, and pays', async ({ page, browser }) => {
  const name = freshName('times')
  await startEmpty(page, name)
  const arrange = page.url()
  await addTimes(page, '25')
  await connectTheTill(page)
  await publish(page)
  const phone = await browser.newContext(VISITOR)
  const visitor = await phone.newPage()
  await ask(visitor, name, 'Rolf')
  await expect(visitor.getByText('€25 is to be paid.')).toBeVisible()
  await expect(visitor.getByRole('button', { name: 'Pay' })).toHaveCount(0)

  const told = await letterTo(page.request, emailOf(name), /^Somebody asked for a time/)
  expect(told.text).toContain('Rolf asks for')
  await page.goto(/http\S+\/bookings/.exec(told.text)![0])
  await expect(page.getByText('1 wait for your answer')).toBeVisible()
  const row = page.getByRole('listitem').filter({ hasText: 'Rolf' })
  await expect(row.getByText('for two')).toBeVisible()
  await expectCleanEverywhere(page, '.view')
  await row.getByRole('button', { name: 'Agree: Rolf' }).click()
  await row.getByLabel('A word with it').fill('The gate on the left.')
  await expectCleanEverywhere(page, '.view')
  await row.getByRole('button', { name: 'Agree', exact: true }).click()
  await expect(row.getByText('Agreed · €25 to pay')).toBeVisible()

  const letter = await letterTo(page.request, `rolf@${name}.example`, /^Agreed: /)
  expect(letter.text, 'a letter carries nothing that anybody can write').not.toContain('The gate')
  await visitor.goto(/http\S+\/-\/booking\/\S+/.exec(letter.text)![0])
  await expect(visitor.getByText('The gate on the left.')).toBeVisible()
  await expect(visitor.getByText('Bring a drawing.')).toBeVisible()
  await visitor.getByRole('button', { name: 'Pay' }).click()
  await expect(visitor.getByRole('heading', { name: '25.00 EUR' })).toBeVisible()
  await visitor.getByRole('button', { name: 'Pay', exact: true }).click()
  await expect(async () => {
    await visitor.reload()
    await expect(visitor.getByText('€25 has arrived.')).toBeVisible({ timeout: 500 })
  }).toPass()
  await expect(visitor.getByRole('button', { name: 'Pay' })).toHaveCount(0)

  await page.goto(arrange.replace(/arrange$/, 'readings'))
  const askedFor = page.getByRole('region', { name: 'Times asked for' })
  await expect(askedFor.getByRole('row', { name: 'untagged' })).toHaveText(/untagged\s*1\s*1/i)
  await expect(page.getByRole('region', { name: 'What came in' })).toContainText('€25')

  await page.goto('/bookings')
  await expect(row.getByText('Agreed · €25 paid')).toBeVisible()
  await expectCleanEverywhere(page, '.view')
  await row.getByRole('button', { name: 'Call off: Rolf' }).click()
  await expect(row.getByText('You can refund it under Income.')).toBeVisible()
  await row.getByRole('button', { name: 'Call off', exact: true }).click()
  // It stays among what is to be done until the money is back.
  await expect(row.getByText('Called off by you')).toBeVisible()
  await expect(row.getByText('Paid: €25. The visitor is waiting for the refund.')).toBeVisible()
  await expect(row.getByRole('link', { name: 'Refund it under Income' })).toHaveAttribute('href', '/income')
  await expectCleanEverywhere(page, '.view')
  await letterTo(page.request, `rolf@${name}.example`, /^Called off: /)
  await visitor.reload()
  await expect(visitor.getByRole('heading', { name: 'Called off' })).toBeVisible()
  await phone.close()
})

test('a time that a visitor calls off is free again, and its creator hears of it', async ({
  page,
  browser,
}) => {
  const name = freshName('times')
  await startEmpty(page, name)
  await addTimes(page)
  await publish(page)
  const phone = await browser.newContext(VISITOR)
  const visitor = await phone.newPage()
  await ask(visitor, name, 'Marta')
  const second = await (await browser.newContext(VISITOR)).newPage()
  await ask(second, name, 'Ada')
  const reader = await phoneVisitor(browser)
  await reader.goto(`${PUBLIC}/${name}`)
  await reader.getByRole('link', { name: 'Ask for a time' }).click()
  await expectCleanInBoth(reader, 'body')
  await reader.goto(visitor.url())
  await expectCleanInBoth(reader, 'body')

  await page.goto('/bookings')
  const marta = page.getByRole('listitem').filter({ hasText: 'Marta' })
  const ada = page.getByRole('listitem').filter({ hasText: 'Ada' })
  await marta.getByRole('button', { name: 'Agree: Marta' }).click()
  await marta.getByRole('button', { name: 'Agree', exact: true }).click()
  await expect(marta.getByText('Agreed', { exact: true })).toBeVisible()
  await expect(ada.getByText('You agreed to another at that time.')).toBeVisible()
  await expect(ada.getByRole('button', { name: 'Agree: Ada' })).toBeDisabled()

  await visitor.reload()
  await visitor.getByRole('button', { name: 'Call this off' }).click()
  await visitor.getByRole('button', { name: 'Keep it' }).click()
  await expect(visitor.getByRole('heading', { name: 'Agreed' })).toBeVisible()
  await visitor.getByRole('button', { name: 'Call this off' }).click()
  await visitor.getByRole('button', { name: 'Call this off' }).click()
  await expect(visitor.getByRole('heading', { name: 'You called this off' })).toBeVisible()
  await page.reload()
  await ada.getByRole('button', { name: 'Decline: Ada' }).click()
  await ada.getByRole('button', { name: 'Decline', exact: true }).click()
  await expect(page.getByText('There is none here.')).toBeVisible()
  await second.reload()
  await expect(second.getByRole('heading', { name: 'Not this time' })).toBeVisible()
  await page.getByRole('radio', { name: 'Over' }).check()
  await marta.getByRole('button', { name: /^Erase Marta/ }).click()
  await page.getByRole('button', { name: 'Erase', exact: true }).click()
  await expect(marta).toHaveCount(0)
  await visitor.reload()
  await expect(visitor.getByRole('heading', { name: 'This is over' })).toBeVisible()
})
