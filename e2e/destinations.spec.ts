import { expect, test, type Page } from '@playwright/test'
import { expectCleanAtBothSizes } from './support/axe'
import { picture } from './support/files'
import { freshName, paste, publish, startEmpty } from './support/people'
import { PUBLIC } from './support/places'

/** Has the workspace keep links of a table as destinations. */
async function keep(page: Page, table: string) {
  const url = '/api/link-files?keep=true'
  const headers = { 'Content-Type': 'application/octet-stream' }
  expect((await page.request.post(url, { data: Buffer.from(table), headers })).ok()).toBe(true)
}

test('many destinations are changed as shown before, and all of it is undone', async ({ page }) => {
  await startEmpty(page, freshName('many'))
  await keep(
    page,
    'address,title\nhttps://partner.example/kiln?id=12,Kiln\nhttps://partner.example/clay?id=12,Clay\nhttps://quarrow.example/,Ours',
  )
  await page.goto('/shelf/destinations')
  await page.getByRole('button', { name: 'Change many' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Host now').fill('partner.example')
  await dialog.getByLabel('Host in its place').fill('new-partner.example')
  await dialog.getByRole('button', { name: 'Show what would change' }).click()
  const rows = dialog.getByRole('region', { name: 'Before and after' }).getByRole('row')
  await expect(rows.filter({ hasText: 'Kiln' })).toContainText('https://new-partner.example/kiln?id=12')
  await expect(rows.filter({ hasText: 'Ours' })).toHaveCount(0)
  await expectCleanAtBothSizes(page, '.p-dialog')
  await dialog.getByRole('button', { name: 'Change 2 destinations' }).click()
  await expect(page.getByText('2 destinations changed')).toBeVisible()
  await page.keyboard.press('Escape')
  const list = page.getByRole('list', { name: 'Destinations' })
  await expect(list).toContainText('new-partner.example/kiln')

  await page.getByRole('button', { name: 'Change many' }).click()
  await expect(dialog.getByText(/^2 were changed/)).toBeVisible()
  await dialog.getByRole('button', { name: 'Undo it' }).click()
  await expect(page.getByText('2 destinations are as before')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(list).not.toContainText('new-partner.example')
})

test('a destination is swapped for a while and merged with another, and all that leads there follows', async ({
  page,
}) => {
  const address = freshName('swapped')
  await startEmpty(page, address)
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  await keep(page, 'address,title\nhttps://quarrow.example/sale,The sale')
  await publish(page)
  const leads = async () => {
    const [{ id }] = (await (await page.request.get('/api/pages')).json()) as { id: string }[]
    const { document } = await (await page.request.get(`/api/pages/${id}`)).json()
    const pressed = await page.request.get(`${PUBLIC}/${address}/-/1/${document.blocks[0].key}`, {
      maxRedirects: 0,
    })
    // The demo's web stands in one place for all hosts.
    return pressed.headers().location?.replace(/^.*\/web\//, 'https://')
  }
  await expect.poll(leads).toBe('https://quarrow.example/stockists')

  await page.goto('/shelf/destinations')
  await page.getByRole('link', { name: 'Where to find our pots: a map' }).click()
  const panel = page.getByRole('complementary', { name: 'Destination' })
  await panel.getByLabel('Picture: file').setInputFiles(picture('pot.png', 200, 200))
  await page.getByRole('button', { name: 'Use this cut' }).click()
  await panel.getByRole('button', { name: 'Keep' }).click()
  await expect(page.locator('.kept img')).toHaveCount(1)
  await panel.getByRole('button', { name: 'Swap on a date' }).click()
  await panel.getByLabel('Leads then to').fill('quarrow.example/pre-order')
  await panel.getByLabel('from', { exact: true }).fill('2026-01-01T09:00')
  await panel.getByLabel('until', { exact: true }).fill('2099-01-01T09:00')
  await expect(panel.getByText('This changes 1 place on 1 page, at once.')).toBeVisible()
  await expectCleanAtBothSizes(page, 'aside.panel')
  await panel.getByRole('button', { name: 'Keep' }).click()
  await expect.poll(leads).toBe('https://quarrow.example/pre-order')
  await panel.getByRole('button', { name: 'Take swap 1 away' }).click()
  await panel.getByRole('button', { name: 'Keep' }).click()
  await expect.poll(leads).toBe('https://quarrow.example/stockists')

  await panel.getByRole('button', { name: 'Merge with another' }).click()
  await panel.getByRole('button', { name: 'The sale' }).click()
  await expectCleanAtBothSizes(page, 'aside.panel')
  await panel.getByRole('button', { name: 'Merge', exact: true }).click()
  await expect(panel.getByRole('heading', { name: 'The sale' })).toBeVisible()
  await expect(panel.getByText('Where to find our pots: a map')).toBeVisible()
  await expect.poll(leads).toBe('https://quarrow.example/sale')
  await panel.getByRole('button', { name: 'Take apart: Where to find our pots: a map' }).click()
  await expect.poll(leads).toBe('https://quarrow.example/stockists')
})
