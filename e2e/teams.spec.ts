import { expect, test, type Browser, type Page } from '@playwright/test'
import { expectClean, expectCleanAtBothSizes } from './support/axe'
import { letterTo, linkIn } from './support/letters'
import { settled } from './support/lines'
import {
  emailOf,
  freshName,
  openAccount,
  PASSWORD,
  paste,
  publish,
  startEmpty,
  titles,
} from './support/people'
import { PUBLIC } from './support/places'

const elsewhere = async (browser: Browser) => (await browser.newContext()).newPage()

/** Invites somebody from the members of a workspace, as a role by its name. */
async function invite(page: Page, email: string, role: string) {
  await page.goto('/settings')
  await page.getByRole('link', { name: 'Members and invitations' }).click()
  await page.getByLabel('E-mail address').fill(email)
  await page.getByRole('combobox', { name: 'What they may do' }).click()
  await page.getByRole('option', { name: role, exact: true }).click()
  await page.getByRole('button', { name: 'Invite', exact: true }).click()
  await expect(page.getByText(`A letter to ${email} is on its way`)).toBeVisible()
}

test('an invitation is taken in a second browser, and a reader cannot change anything', async ({
  page,
  browser,
}) => {
  const name = freshName('team')
  await startEmpty(page, name)
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  await publish(page)
  const guest = emailOf(freshName('reader'))
  await invite(page, guest, 'Reads')
  await expectCleanAtBothSizes(page, 'main')

  const reader = await elsewhere(browser)
  await reader.goto(linkIn(await letterTo(page.request, guest, /^You are invited to/)))
  await expect(reader.getByText(`${emailOf(name)} asks you to look at figures with them`)).toBeVisible()
  await expectClean(reader, 'main')
  await reader.getByLabel('Password').fill(PASSWORD)
  await reader.getByRole('button', { name: 'Become a member' }).click()
  await expect(reader.getByRole('heading', { name: 'Readings' })).toBeVisible()
  await expect(reader.getByText('You read figures here')).toBeVisible()
  await expectClean(reader, 'main')
  const views = reader.getByRole('navigation').getByRole('link')
  await expect(views.filter({ hasText: 'Readings' })).toHaveCount(1)
  await expect(views.filter({ hasText: 'Arrange' })).toHaveCount(0)

  // The page has its name for readers as well, who get no working copy.
  const [, id] = /pages\/([^/]+)/.exec(reader.url())!
  await reader.goto(`/pages/${id}/readings/summary`)
  await expect(reader.getByRole('heading', { level: 1 })).toHaveText(name)

  // Neither by an address nor by what screens would send.
  await reader.goto(`/pages/${id}/arrange`)
  await expect(reader).toHaveURL(/readings/)
  const headers = { Origin: new URL(reader.url()).origin }
  const draft = await reader.request.put(`/api/pages/${id}/draft`, {
    data: { revision: 1, document: {} },
    headers,
  })
  expect(draft.status()).toBe(403)
  expect((await reader.request.get(`/api/pages/${id}`)).status()).toBe(403)
  expect((await reader.request.get('/api/members')).status()).toBe(403)

  // Whoever runs it lets them edit, and they do.
  await page.reload()
  await page.getByRole('button', { name: `Change what ${guest} may do` }).click()
  const row = page.getByRole('listitem').filter({ hasText: guest })
  await row.getByRole('combobox', { name: 'What they may do' }).click()
  await page.getByRole('option', { name: 'Edits', exact: true }).click()
  await row.getByRole('button', { name: 'Save' }).click()
  await expect(row.getByText('Edits, every page')).toBeVisible()
  await reader.goto('/')
  await paste(reader, 'https://quarrow.example/kiln-openings', 'Kiln opening dates')
  await publish(reader)
  await reader.goto(`${PUBLIC}/${name}`)
  await expect(reader.locator('.button')).toHaveCount(2)

  // Who did what stands in the journal.
  await page.goto('/settings/journal')
  const entries = page.getByRole('region', { name: 'Journal' }).getByRole('listitem')
  await expect(entries.filter({ hasText: guest }).filter({ hasText: 'Published' })).toHaveCount(1)
  await expect(
    entries.filter({ hasText: emailOf(name) }).filter({ hasText: `Invited: ${guest}` }),
  ).toHaveCount(1)
  await expectCleanAtBothSizes(page, 'main')
  await page.goto('/settings/members')

  await page.getByRole('button', { name: `Remove ${guest}` }).click()
  await page.getByRole('alertdialog').getByRole('button', { name: 'Remove' }).click()
  await expect(row).toHaveCount(0)
  await reader.goto('/')
  await expect(reader.getByRole('heading', { name: 'You are in no workspace' })).toBeVisible()
  await expectClean(reader, 'main')
  await reader.getByLabel('Page address').fill(freshName('own'))
  await reader.getByRole('button', { name: 'Open a workspace' }).click()
  await expect(reader.getByText('not published yet')).toBeVisible()
  await reader.context().close()
})

test('one person is in two workspaces, and goes from one to the other', async ({ page, browser }) => {
  const [first, second] = [freshName('first'), freshName('second')]
  await startEmpty(page, first)
  const other = await elsewhere(browser)
  await openAccount(other, second)
  await invite(page, emailOf(second), 'Runs it')
  const link = linkIn(await letterTo(page.request, emailOf(second), /^You are invited to/))
  await other.goto(link)
  await expect(other.getByText(`You are signed in as ${emailOf(second)}`)).toBeVisible()
  await other.getByRole('button', { name: 'Become a member' }).click()
  await expect(other).toHaveURL(/\/pages\//)
  await expect(other.getByText(first).first()).toBeVisible()
  await other.goto('/settings')
  await other.getByRole('button', { name: `Go to ${second}` }).click()
  await expect(other.getByText('Begin with an empty page')).toBeVisible()
  await other.goto('/settings')
  await other.getByRole('button', { name: `Go to ${first}` }).click()
  await expect(other.getByText(first).first()).toBeVisible()

  // Handed over, and left.
  await page.goto('/settings/members')
  await expect(page.getByText(emailOf(second))).toBeVisible()
  await page.getByRole('button', { name: `Change what ${emailOf(first)} may do` }).click()
  const row = page.getByRole('listitem').filter({ hasText: emailOf(first) })
  await row.getByRole('combobox', { name: 'What they may do' }).click()
  await page.getByRole('option', { name: 'Edits', exact: true }).click()
  await row.getByRole('button', { name: 'Save' }).click()
  await expect(page).toHaveURL(/settings$/)
  await expect(page.getByRole('link', { name: 'Members and invitations' })).toHaveCount(0)
  await page.getByRole('button', { name: 'Leave this workspace…' }).click()
  await page.getByRole('alertdialog').getByRole('button', { name: 'Leave it' }).click()
  await expect(page.getByRole('heading', { name: 'You are in no workspace' })).toBeVisible()
  await other.context().close()
})

test('two people on one page see each other, and what they change on different rows comes together', async ({
  page,
  browser,
}) => {
  const name = freshName('together')
  await startEmpty(page, name)
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  await paste(page, 'https://quarrow.example/kiln-openings', 'Kiln opening dates')
  await settled(page)
  const arrange = page.url()
  const guest = emailOf(freshName('helper'))
  await invite(page, guest, 'Edits')
  await page.goto(arrange)
  const helper = await elsewhere(browser)
  await helper.goto(linkIn(await letterTo(page.request, guest, /^You are invited to/)))
  await helper.getByLabel('Password').fill(PASSWORD)
  await helper.getByRole('button', { name: 'Become a member' }).click()
  await expect(helper.getByText(`${emailOf(name)} works on this page, too`)).toBeVisible()
  await expect(page.getByText(`${guest} works on this page, too`)).toBeVisible({ timeout: 30_000 })
  await expectCleanAtBothSizes(page, 'main')

  const rename = async (whose: Page, at: number, to: string) => {
    await whose.locator('.rows > li').nth(at).focus()
    await whose.keyboard.press('F2')
    await whose.getByRole('textbox', { name: 'Title' }).fill(to)
    await whose.keyboard.press('Enter')
  }
  await rename(page, 0, 'Our shops')
  await settled(page)
  await rename(helper, 1, 'When the kiln opens')
  await settled(helper)
  await expect.poll(() => titles(helper)).toEqual(['Our shops', 'When the kiln opens'])
  await expect(helper.getByRole('alert')).toHaveCount(0)

  // The same row asks whoever comes second.
  await rename(page, 1, 'Kiln days')
  await expect(page.getByRole('alert', { name: 'Changed here and elsewhere' })).toBeVisible()
  await page.getByRole('alert').getByRole('button').first().click()
  await settled(page)
  await helper.goto('/settings')
  await helper.context().close()
})
