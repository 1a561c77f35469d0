import { expect, test } from '@playwright/test'
import { saved, settled } from './support/lines'
import { freshName, openAccount, paste, row, startEmpty } from './support/people'

test('what a ready-made page leaves to be filled in is listed before publishing', async ({ page }) => {
  await openAccount(page, freshName('ready'))
  await page.locator('.starters button').first().click()
  await expect(page.locator('.rows li').first()).toBeVisible()
  await settled(page)
  await page.getByRole('button', { name: 'Publish', exact: true }).click()
  const dialog = page.getByRole('dialog', { name: /^Publish edition/ })
  const list = dialog.getByRole('region', { name: /of the ready-made page/ })
  await expect(list.getByRole('listitem').first()).toBeVisible()
  const found = await list.getByRole('listitem').count()
  expect(found).toBeGreaterThanOrEqual(5)
  await list
    .getByRole('button', { name: /^Fill in “/ })
    .first()
    .click()
  await page.getByLabel('Leads to').first().fill('kiln.example/mine')
  await page.keyboard.press('Escape')
  await expect(page.locator('.rows li').locator(':focus').or(page.locator('.rows li:focus'))).toHaveCount(1)
  await settled(page)
  await page.getByRole('button', { name: 'Publish', exact: true }).click()
  await expect(list.getByRole('listitem')).toHaveCount(found - 1)
  await list.getByRole('button', { name: 'Hide these' }).click()
  await expect(list).toHaveCount(0)
  await dialog.getByRole('button', { name: 'Publish now' }).click()
  await expect(page.getByText('nothing waiting')).toBeVisible()
  const { blocks, footer } = await saved(page)
  expect(JSON.stringify([blocks.filter(({ shown }) => shown), footer])).not.toContain('your-site.example')
})

test('another starter keeps the icons, the end and the language that are there', async ({ page }) => {
  await startEmpty(page, freshName('begin-again'))
  await page.getByRole('button', { name: 'Edit the profile icons' }).click()
  await page.getByLabel('Address of a profile').fill('https://photoloft.example/quarrow')
  await page.getByRole('button', { name: 'Add', exact: true }).click()
  await page.keyboard.press('Escape')
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Edit the end of the page' }).click()
  await page.getByLabel('Text', { exact: true }).fill('Mill Lane, by the river')
  await page.keyboard.press('Escape')
  await settled(page)
  await page.getByRole('link', { name: 'Begin again from a ready-made page' }).click()
  await page.locator('.starters button').first().click()
  await expect(page.locator('.rows li').first()).toBeVisible()
  await settled(page)
  const { icons, footer } = await saved(page)
  expect(icons.items.map(({ address }) => address)).toEqual(['https://photoloft.example/quarrow'])
  expect(footer.text).toBe('Mill Lane, by the river')
})

test('a mailbox, a number and a pasted colour are taken as they are typed', async ({ page }) => {
  await startEmpty(page, freshName('typed'))
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  await row(page, 'Where to find').locator('.piece').click()
  for (const [typed, kept] of [
    ['ilse@quarrow.example', 'mailto:ilse@quarrow.example'],
    ['+44 20 7946 0018', 'tel:+442079460018'],
  ] as const) {
    await page.getByLabel('Leads to').fill(typed)
    await page.getByLabel('Title', { exact: true }).focus()
    await expect(page.getByLabel('Leads to')).toHaveValue(kept)
  }
  await page.keyboard.press('Escape')
  await page.getByRole('link', { name: 'Look' }).click()
  const colour = page.getByLabel('Name, headings, text', { exact: true })
  await colour.fill(' rgb(31, 92, 74) ')
  await colour.blur()
  await expect(colour).toHaveValue('#1f5c4a')
  await colour.fill('petrol')
  await colour.blur()
  await expect(page.getByRole('alert').filter({ hasText: '“petrol” is no colour' })).toBeVisible()
})

test('what cannot be taken back asks first, and erasing says that all is gone', async ({ page }) => {
  await startEmpty(page, freshName('erased'))
  await page.getByRole('link', { name: 'Settings' }).click()
  const time = page.getByRole('combobox', { name: 'Keep raw events for' })
  await expect(time).toContainText(/days|months|year/)
  const before = await time.textContent()
  await time.click()
  await page.getByRole('option', { name: '30 days' }).click()
  const asked = page.getByRole('alertdialog', { name: 'Keep raw events for 30 days?' })
  await expect(asked).toContainText('deleted for good')
  await asked.getByRole('button', { name: /^Leave it at/ }).click()
  await page.reload()
  await expect(time).toHaveText(before!)
  await page.getByRole('button', { name: 'Erase everything…' }).click()
  await page.getByLabel('Your password').fill('clay and water and fire')
  await page.getByRole('button', { name: 'Erase everything for good' }).click()
  await expect(page.getByRole('heading', { name: 'Everything is erased' })).toBeVisible()
})

test('two sources or two themes of one name are pointed out', async ({ page }) => {
  await startEmpty(page, freshName('twins'))
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  await page.getByRole('link', { name: 'Sources' }).click()
  const add = async (name: string) => {
    await page.getByLabel('Another place').fill(name)
    await page.getByRole('button', { name: 'Add source' }).click()
    await expect(page.getByLabel('Another place')).toHaveValue('')
  }
  await add('Printed card')
  await page.getByLabel('Another place').fill(' printed CARD ')
  await expect(page.getByText('There is a source called “Printed card” already')).toBeVisible()
  await add('Printed card')
  await expect(page.getByText('another is called that, too')).toHaveCount(2)
  await page.getByRole('link', { name: 'Readings' }).click()
  await expect(page.getByText('Printed card (2)').first()).toBeVisible()
  await page.getByRole('link', { name: 'Look' }).click()
  for (const says of [0, 1]) {
    await page.getByRole('button', { name: 'Keep this look as a theme' }).click()
    await page.getByLabel('Name', { exact: true }).fill('Kiln')
    await expect(page.getByText('There is a theme called “Kiln” already')).toHaveCount(says)
    await page.getByRole('button', { name: 'Keep it' }).click()
    await expect(page.getByRole('dialog')).toHaveCount(0)
  }
})

test('a list without rows says so, and a corrected file can be chosen again', async ({ page }) => {
  await startEmpty(page, freshName('lists'))
  await page.getByRole('link', { name: 'Shelf' }).click()
  await page.getByRole('button', { name: 'From a list' }).click()
  const dialog = page.getByRole('dialog', { name: 'Short links from a list' })
  const choose = (text: string) =>
    dialog
      .getByLabel('Choose a file')
      .setInputFiles({ name: 'links.csv', mimeType: 'text/csv', buffer: Buffer.from(text) })
  await choose('\n\n')
  await expect(dialog.getByText('There is no row in this list')).toBeVisible()
  await choose('https://kiln.example/dates,dates\n')
  await expect(dialog.getByRole('button', { name: /^Make 1 / })).toBeVisible()
})

test('the row that is open stands in the address, and is open again after a reload', async ({ page }) => {
  await startEmpty(page, freshName('opened'))
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  await page.locator('.rows li .piece').first().click()
  await expect(page.getByLabel('Leads to')).toBeVisible()
  await expect(page).toHaveURL(/[?&]open=[a-z0-9]+/)
  await page.reload()
  await expect(page.getByLabel('Leads to')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByLabel('Leads to')).toBeHidden()
  await expect(page).not.toHaveURL(/open=/)
})
