import { expect, test, type Page } from '@playwright/test'
import { expectClean, expectCleanAtBothSizes } from './support/axe'
import { letterTo } from './support/letters'
import { settled } from './support/lines'
import { freshName, phoneVisitor, publish, startEmpty } from './support/people'
import { PUBLIC, STANDINS } from './support/places'

/** The link of the letter that asks somebody whether they left their address. */
async function confirmLink(page: Page, to: string) {
  const letter = await letterTo(page.request, to, /^Please confirm your email address$/)
  return /http\S+\/-\/sign-up\/\S+/.exec(letter.text)![0]
}

/** Who the made-up list service knows, of those with an ending. */
const onList = async (page: Page, ending: string) =>
  ((await (await page.request.get(`${STANDINS}/lists.json`)).json()) as { email: string; source: string; puts: number }[])
    .filter(({ email }) => email.endsWith(ending)) // prettier-ignore

async function addSignUp(page: Page) {
  await page.getByRole('button', { name: 'Edit name, line and picture' }).click()
  await page.getByLabel('Name', { exact: true }).fill('Quarrow Clay')
  await page.getByRole('button', { name: 'Close the editor' }).click()
  await page.getByRole('button', { name: 'Add a block' }).click()
  await page.getByRole('menuitem', { name: 'Sign-up', exact: true }).click()
  const drawer = page.getByRole('complementary')
  await drawer.getByLabel('Title', { exact: true }).fill('The studio letter')
  await drawer.getByLabel('What they agree to').fill('Quarrow Clay may write to me.')
  await drawer.getByLabel('Said once they have confirmed').fill('See you at the kiln.')
  await drawer.getByLabel('Said once they have confirmed').blur()
  await settled(page)
  await page.getByRole('button', { name: 'Close the editor' }).click()
}

test('an address is left without script, confirmed, handed on once the service is up, and erased', async ({
  page,
  browser,
}) => {
  const name = freshName('letters')
  const ending = `@${name}.example`
  await startEmpty(page, name)
  await page.goto('/sign-ups')
  await expect(page.getByText('Nobody has signed up yet')).toBeVisible()
  await page.goBack()
  await addSignUp(page)
  await publish(page)

  const phone = await browser.newContext({
    viewport: { width: 390, height: 844 },
    javaScriptEnabled: false,
  })
  const visitor = await phone.newPage()
  await visitor.goto(`${PUBLIC}/${name}`)
  await visitor.getByLabel('Your e-mail address').fill(`rolf${ending}`)
  await visitor.getByLabel('Quarrow Clay may write to me.').check()
  await visitor.getByRole('button', { name: 'Sign up' }).click()
  await expect(visitor.getByRole('heading', { name: 'Look in your mailbox' })).toBeVisible()
  await visitor.getByRole('link', { name: 'Back to the page' }).click()
  await expect(visitor).toHaveURL(`${PUBLIC}/${name}`)

  await page.goto('/sign-ups')
  await expect(page.getByText('nobody waits').or(page.getByText('one more has yet to'))).toBeVisible()
  await expect(page.getByRole('row', { name: `rolf${ending}` })).toContainText('Still to confirm')
  await visitor.goto(await confirmLink(page, `rolf${ending}`))
  await expect(visitor.getByText(`write to rolf${ending}`)).toBeVisible()
  await visitor.getByRole('button', { name: 'Yes, sign me up' }).click()
  await expect(visitor.getByText('See you at the kiln.')).toBeVisible()
  await page.reload()
  await expect(page.getByRole('row', { name: `rolf${ending}` })).toContainText('Confirmed')
  await expectCleanAtBothSizes(page, '.view')

  await page.getByRole('button', { name: 'Connect a service' }).click()
  await page.getByLabel('Address of its interface').fill('http://lists.example/v1')
  await page.getByLabel('List', { exact: true }).fill('studio-letter')
  await page.getByLabel('Token').fill('quarrow-key')
  await page.getByRole('button', { name: 'Hand on', exact: true }).click()
  await expect(page.getByText('begins with https://')).toBeVisible()
  await page.getByLabel('Address of its interface').fill('https://lists.example/v1')
  await page.getByRole('button', { name: 'Hand on', exact: true }).click()
  await expect(page.getByText('It knows 1 person.')).toBeVisible()
  await expect(page.getByRole('row', { name: `rolf${ending}` })).toContainText('Handed on')
  expect(await onList(page, ending)).toEqual([expect.objectContaining({ email: `rolf${ending}`, puts: 1 })])

  await visitor.goto(`${PUBLIC}/${name}`)
  await visitor.getByLabel('Your e-mail address').fill('nobody')
  await visitor.getByLabel('Quarrow Clay may write to me.').check()
  await visitor.evaluate(() => document.querySelector('form')?.setAttribute('novalidate', ''))
  await visitor.getByRole('button', { name: 'Sign up' }).click()
  await expect(visitor.getByRole('alert')).toContainText('not an e-mail address')
  await expect(visitor.getByLabel('Your e-mail address')).toHaveValue('nobody')
  await expect(visitor.getByLabel('Quarrow Clay may write to me.')).toBeChecked()

  await page.getByRole('button', { name: `Erase rolf${ending}` }).click()
  await page.getByRole('alertdialog').getByRole('button', { name: 'Erase', exact: true }).click()
  await expect(page.getByText('Nobody has signed up yet')).toBeVisible()
  await expect.poll(() => onList(page, ending)).toEqual([])
  await phone.close()
})

test('who left their address takes it off again, and the table has the rest', async ({ page, browser }) => {
  const name = freshName('leaving')
  const ending = `@${name}.example`
  await startEmpty(page, name)
  await addSignUp(page)
  await publish(page)
  const visitor = await phoneVisitor(browser)
  for (const who of ['rolf', 'eva']) {
    await visitor.goto(`${PUBLIC}/${name}?utm_source=claynews`)
    await visitor.getByLabel('Your e-mail address').fill(who + ending)
    await visitor.getByLabel('Quarrow Clay may write to me.').check()
    await visitor.getByRole('button', { name: 'Sign up' }).click()
    await visitor.goto(await confirmLink(page, who + ending))
    await visitor.getByRole('button', { name: 'Yes, sign me up' }).click()
  }
  await visitor.goto(await confirmLink(page, `eva${ending}`))
  await visitor.getByRole('button', { name: 'Take my address off' }).click()
  await expect(visitor.getByText('Your address was taken off')).toBeVisible()
  await expectClean(visitor, 'main')
  await page.goto('/sign-ups')
  await expect(page.getByText('1 person')).toBeVisible()
  const table = await (await page.request.get('/api/sign-ups.csv')).text()
  expect(table).toContain(`rolf${ending}`)
  expect(table).not.toContain(`eva${ending}`)
  await visitor.context().close()
})
