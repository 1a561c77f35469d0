import { expect, test, type Page } from '@playwright/test'
import { expectCleanEverywhere } from './support/axe'
import { settled } from './support/lines'
import { freshName, phoneVisitor, publish, startEmpty } from './support/people'
import { PUBLIC } from './support/places'

/** Connects the made-up payment service. */
async function connect(page: Page) {
  await page.goto('/income')
  await expect(page.getByText('Nobody has paid yet')).toBeVisible()
  await page.getByRole('button', { name: 'Connect a payment service' }).click()
  await page.getByLabel('Address of its interface').fill('https://pay.example/v1')
  await page.getByLabel('Token').fill('quarrow-till')
  await page.getByLabel('Secret').fill('whsec_short')
  await page.getByRole('button', { name: 'Connect it' }).click()
  await expect(page.getByText('it looks like whsec_')).toBeVisible()
  await page.getByLabel('Secret').fill('whsec_cXVhcnJvdyBjbGF5IHRpbGwgb2YgdGhlIGRlbW8hISE=')
  await page.getByRole('button', { name: 'Connect it' }).click()
  await expect(page.getByText('/-/payments/')).toBeVisible()
}

async function addTip(page: Page) {
  await page.getByRole('button', { name: 'Add a block' }).click()
  await page.getByRole('menuitem', { name: 'Tip or price', exact: true }).click()
  const drawer = page.getByRole('complementary')
  await drawer.getByLabel('Title', { exact: true }).fill('A tip for the kiln')
  await drawer.getByLabel('Amounts').fill('3 five')
  await drawer.getByLabel('Amounts').blur()
  await expect(drawer.getByText('These are no amounts.')).toBeVisible()
  await drawer.getByLabel('Amounts').fill('12.50 3 5')
  await drawer.getByLabel('Amounts').blur()
  await drawer.getByLabel('Said once it is paid').fill('The kiln thanks you.')
  await drawer.getByLabel('Said once it is paid').blur()
  await settled(page)
  await page.getByRole('button', { name: 'Close the editor' }).click()
}

test('a visitor tips, tries again after a failure, and is given it back', async ({ page, browser }) => {
  const name = freshName('tips')
  await startEmpty(page, name)
  const arrange = page.url()
  await addTip(page)
  await connect(page)
  await page.goto(arrange)
  await publish(page)

  // The page asks nobody else for anything, and needs no script.
  const phone = await browser.newContext({
    viewport: { width: 390, height: 844 },
    javaScriptEnabled: false,
  })
  const visitor = await phone.newPage()
  await visitor.goto(`${PUBLIC}/${name}`)
  await expect(visitor.getByRole('radio')).toHaveCount(3)
  await expect(visitor.getByLabel('€5', { exact: true })).toBeChecked()
  await visitor.getByLabel('Another amount (EUR)').fill('7,5o')
  await visitor.getByRole('button', { name: 'Pay' }).click()
  await expect(visitor.getByRole('alert')).toContainText('That is no amount')
  await visitor.getByLabel('Another amount (EUR)').fill('7,50')
  await visitor.getByLabel('A word with it').fill('For more glaze')
  await visitor.getByRole('button', { name: 'Pay' }).click()
  await expect(visitor.getByRole('heading', { name: '7.50 EUR' })).toBeVisible()
  await visitor.getByRole('button', { name: 'Let it fail' }).click()
  await expect(async () => {
    await visitor.reload()
    await expect(visitor.getByText('Nothing was charged.')).toBeVisible({ timeout: 500 })
  }).toPass()
  await visitor.getByRole('link', { name: 'Back to the page' }).click()
  await visitor.getByLabel('€12.50', { exact: true }).check()
  await visitor.getByLabel('A word with it').fill('For more glaze')
  await visitor.getByRole('button', { name: 'Pay' }).click()
  await visitor.getByRole('button', { name: 'Pay', exact: true }).click()
  await expect(async () => {
    await visitor.reload()
    await expect(visitor.getByText('The kiln thanks you.')).toBeVisible({ timeout: 500 })
  }).toPass()
  await phone.close()

  await page.goto('/income')
  await expect(page.getByText('€12.50 in 1 payment')).toBeVisible()
  await expect(page.getByText('For more glaze').first()).toBeVisible()
  await expect(page.getByText('Not paid')).toBeVisible()
  await expectCleanEverywhere(page, '.view')

  // Readings says where it came from.
  await page.goto(arrange.replace(/arrange$/, 'readings'))
  const cameIn = page.getByRole('region', { name: 'What came in' })
  await expect(cameIn.getByRole('row', { name: 'untagged' })).toContainText('€12.50')
  await expectCleanEverywhere(page, '.view')

  await page.goto('/income')
  await page.getByRole('button', { name: 'Give back €12.50 for A tip for the kiln' }).click()
  await page.getByRole('button', { name: 'Give back', exact: true }).last().click()
  await expect(page.getByText('Given back')).toBeVisible()
  await expect(page.getByText('€0 in 1 payment')).toBeVisible()
})

test('a page that asks for money nobody can pay says so to its creator', async ({ page, browser }) => {
  const name = freshName('tips')
  await startEmpty(page, name)
  await addTip(page)
  await publish(page)
  const visitor = await phoneVisitor(browser)
  await visitor.goto(`${PUBLIC}/${name}`)
  await visitor.getByRole('button', { name: 'Pay' }).click()
  await expect(visitor.getByRole('alert')).toContainText('Nothing was charged')
  await page.goto(page.url().replace(/arrange.*$/, 'check'))
  await expect(page.getByText('Nobody can pay: no payment service is connected.')).toBeVisible()
})
