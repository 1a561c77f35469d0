import { expect, test, type Page } from '@playwright/test'
import { film, picture } from './support/files'
import { freshName, openAccount, paste, publish, row, startEmpty, titles } from './support/people'
import { PUBLIC } from './support/places'

const look = (page: Page) => page.getByRole('link', { name: 'Look', exact: true }).click()
const wall = (page: Page) => page.getByRole('region', { name: 'Themes' })
const inMiniature = (page: Page) => page.locator('.paper .fragment')

test('a theme is worn, changed, kept as one’s own and put back', async ({ page, browser }) => {
  const address = freshName('worn')
  await startEmpty(page, address)
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  await look(page)
  await wall(page).getByRole('button', { name: 'Signal' }).click()
  await expect(inMiniature(page).locator('.button')).toHaveCSS('box-shadow', 'rgb(23, 20, 7) 4px 4px 0px 0px')
  await page.getByRole('group', { name: 'Corners' }).getByRole('radio', { name: 'Pill' }).check()
  await expect(inMiniature(page).locator('.button')).toHaveCSS('border-radius', '32px')
  await page.getByRole('button', { name: 'Keep this look as a theme' }).click()
  await page.getByLabel('Name', { exact: true }).fill('Round signal')
  await page.getByRole('button', { name: 'Keep it' }).click()
  await expect(wall(page).getByRole('button', { name: 'Round signal', exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'Put back to Signal' }).click()
  await expect(inMiniature(page).locator('.button')).toHaveCSS('border-radius', '2px')
  await wall(page).getByRole('button', { name: 'Round signal', exact: true }).click()
  await expect(inMiniature(page).locator('.button')).toHaveCSS('border-radius', '32px')
  await expect(page.locator('.standing')).not.toContainText('saving')
  await publish(page)

  const visitor = await browser.newPage()
  await visitor.goto(`${PUBLIC}/${address}`)
  await expect(visitor.locator('.button')).toHaveCSS('border-radius', '32px')
  await expect(visitor.locator('.ground')).toHaveCSS('background-color', 'rgb(255, 210, 63)')
  await visitor.close()

  await wall(page).getByRole('button', { name: 'Delete the theme Round signal' }).click()
  await page.getByRole('alertdialog').getByRole('button', { name: 'Delete it' }).click()
  await expect(wall(page).getByRole('button', { name: 'Round signal', exact: true })).toHaveCount(0)
  await expect(inMiniature(page).locator('.button'), 'the page keeps the look').toHaveCSS(
    'border-radius',
    '32px',
  )
})

test('a colour that cannot be read says its figure and is repaired at one press', async ({ page }) => {
  await startEmpty(page, freshName('pale'))
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  await look(page)
  const text = page.getByLabel('Name, headings, text', { exact: true })
  await text.fill('#d8cfc0')
  const line = page.locator('.colour').filter({ has: text })
  await expect(line).toContainText(/1\.\d\d : 1, needs 4\.5/)
  await expect(page.getByText('Hard to read: text on the background')).toBeVisible()
  await line.getByRole('button', { name: /^Use #/ }).click()
  await expect(line).toContainText(/^\D*4\.[5-9]\d : 1$/)
  await expect(page.getByText('Hard to read')).toHaveCount(0)

  await text.fill('red;}')
  await expect(text).toHaveAttribute('aria-invalid', 'true')
  await text.blur()
  await expect(line.getByRole('alert')).toContainText('is no colour')
  await page.reload()
  await expect(text, 'what is no colour is not kept').toHaveValue(/^#[0-9a-f]{6}$/)
})

test('a picture behind the page is veiled until it can be read', async ({ page }) => {
  await startEmpty(page, freshName('behind'))
  await look(page)
  const kinds = page.getByRole('group', { name: 'What it is' })
  await kinds.getByRole('radio', { name: 'Picture' }).check()
  await page.getByLabel('Picture: file').setInputFiles(picture('shelf.png', 800, 600))
  await page.getByRole('button', { name: 'Use this cut' }).click()
  await expect(inMiniature(page).locator('.ground img')).toBeVisible()
  await page.getByLabel('Strength of the veil').fill('10')
  await expect(page.getByText('Hard to read')).toBeVisible()
  await page.getByLabel('Strength of the veil').fill('90')
  await expect(page.getByText('Hard to read')).toHaveCount(0)
  await expect(page.getByRole('button', { name: /out of your pictures/ }).first()).toBeVisible()
  for (const kind of ['Gradient', 'Pattern', 'Colour']) {
    await kinds.getByRole('radio', { name: kind }).check()
    await expect(inMiniature(page).locator('.ground img')).toHaveCount(0)
  }
  await kinds.getByRole('radio', { name: 'Picture' }).check()
  await expect(inMiniature(page).locator('.ground img'), 'what was set before is still there').toBeVisible()
})

test('a film plays behind the page, and stands still for whom wants less motion', async ({ page, browser }) => {
  const address = freshName('film')
  await startEmpty(page, address)
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  await look(page)
  await page.getByRole('group', { name: 'What it is' }).getByRole('radio', { name: 'Film' }).check()
  await page.getByLabel('Film file').setInputFiles(await film(page))
  await expect(inMiniature(page).locator('.ground video')).toHaveCount(1)
  await publish(page)
  for (const [motion, shown] of [['no-preference', true], ['reduce', false]] as const) {
    const context = await browser.newContext({ reducedMotion: motion })
    const visitor = await context.newPage()
    await visitor.goto(`${PUBLIC}/${address}`)
    await expect(visitor.locator('.ground video')).toBeVisible({ visible: shown })
    await expect(visitor.locator('.ground img')).toBeVisible()
    if (shown) await expect.poll(() => visitor.locator('video').evaluate((each: HTMLVideoElement) => each.currentTime)).toBeGreaterThan(0)
    await context.close()
  }
}) // prettier-ignore

test('a starter is taken with one’s own name on it, and taking it can be undone', async ({ page }) => {
  const address = freshName('river-kiln')
  await openAccount(page, address)
  await expect(page.getByRole('heading', { name: 'Begin from a ready-made page' })).toBeVisible()
  await expect.poll(() => page.locator('.starters button').count()).toBeGreaterThanOrEqual(8)
  await expect(page.locator('.starters .fragment').first()).toContainText('River Kiln')
  await page.getByRole('button', { name: /^Makers and potters/ }).click()
  await expect(page.locator('.piece.top .fragment')).toContainText('River Kiln')
  await expect.poll(() => titles(page)).toContain('Bowl, deep')
  await page.keyboard.press('Control+z')
  await expect.poll(() => titles(page)).toEqual([])
  await page.keyboard.press('Control+Shift+z')
  await expect.poll(() => titles(page)).toContain('Bowl, deep')
})

test('several lines are pasted at once, looked at, and added in one step', async ({ page }) => {
  await startEmpty(page, freshName('list'))
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  const line = page.getByLabel('Paste an address to add a button')
  const several = [
    'Kiln dates', 'https://quarrow.example/kiln-openings', 'https://shop.quarrow.example/seconds', 'ilse@quarrow.example',
    '+44 20 7946 0018', 'https://quarrow.example/files/glaze-recipes.pdf', 'quarrow.example/stockists', 'javascript:alert(1)',
  ].join('\n') // prettier-ignore
  await line.evaluate((field, text) => {
    const clipboardData = new DataTransfer()
    clipboardData.setData('text', text)
    field.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }))
  }, several)
  const dialog = page.getByRole('dialog', { name: '7 lines' })
  await expect(dialog.getByRole('listitem')).toHaveCount(7)
  await expect(dialog.getByRole('listitem').nth(0)).toContainText('ButtonKiln dates')
  await expect(dialog.getByRole('listitem').nth(2)).toContainText('Contact')
  await expect(dialog.getByRole('listitem').nth(4)).toContainText('File')
  await expect(dialog.getByRole('listitem').nth(5)).toContainText('leads there already')
  await expect(dialog.getByRole('listitem').nth(6)).toContainText('https, http, mailto, tel or sms')
  await dialog.getByRole('button', { name: 'Add 5 blocks' }).click()
  await expect(row(page, 'Seconds sale')).toBeVisible()
  await expect.poll(() => titles(page)).toEqual([
    'Where to find our pots: a map', 'Kiln dates', 'Seconds sale', 'ilse@quarrow.example', '+442079460018', 'Glaze recipes',
  ]) // prettier-ignore
  await page.keyboard.press('Control+z')
  await expect.poll(() => titles(page)).toEqual(['Where to find our pots: a map'])
})

test('the page being read is sent to a page of choice from the small window', async ({ page }) => {
  await startEmpty(page, freshName('sent'))
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  await page.getByRole('link', { name: 'Settings' }).click()
  const bookmark = await page.getByRole('link', { name: 'Send to Jundle' }).getAttribute('href')
  expect(bookmark).toContain('/send')
  const [small] = await Promise.all([
    page.context().waitForEvent('page'),
    page.evaluate(
      (path) =>
        void window.open(
          `/send?url=${encodeURIComponent(path)}&title=Seconds`,
          'jundle',
          'width=460,height=560',
        ),
      'https://shop.quarrow.example/seconds',
    ),
  ])
  await expect(small.locator('.what img')).toBeVisible()
  await expect(small.getByLabel('Title')).toHaveValue('Seconds')
  await small.getByRole('button', { name: 'Put it there' }).click()
  await expect(small.getByRole('status')).toContainText('ready to be published')
  await small.close()
  await page.getByRole('link', { name: 'Arrange' }).click()
  await page.reload()
  await expect.poll(() => titles(page)).toEqual(['Seconds', 'Where to find our pots: a map'])
})

test('no keystroke is lost while a slow server saves', async ({ page }) => {
  await startEmpty(page, freshName('typing'))
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  await page.route('**/draft', async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 120)) // the slow server
    await route.continue()
  })
  await row(page, 'Where to find').locator('.piece').click()
  const title = page.getByRole('complementary').getByLabel('Title', { exact: true })
  const words = 'Where our pots stand: eleven shops, two museums and a boat'
  await title.fill('')
  await title.pressSequentially(words, { delay: 15 })
  await expect(title).toHaveValue(words)
  await expect(page.locator('.rows .fragment')).toContainText(words)
  await expect(page.locator('.standing')).not.toContainText('saving')
  await page.reload()
  await expect(row(page, words)).toBeVisible()
})
