import AxeBuilder from '@axe-core/playwright'
import { expect, test, type Page } from '@playwright/test'
import type { RunOptions } from 'axe-core'
import { DARK_RULES, expectNoSideways, PHONE_RULES } from './support/axe'
import { picture } from './support/files'
import { atRest, disagree, endSession, settled } from './support/lines'
import { freshName, ILSE, openAccount, publish, signIn, startEmpty } from './support/people'
import { PUBLIC } from './support/places'

const ALL_RULES = {
  type: 'tag' as const,
  values: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'],
}
/** Pages that visitors see are looked at by all rules at every size. */
const OF_PAGES = { runOnly: ALL_RULES }

/** The rules that a screen of the studio is held against: in the dark and on a phone those that say more than in the light. */
async function rulesOf(page: Page) {
  if (page.viewportSize()!.width < 600) return { runOnly: { type: 'rule' as const, values: PHONE_RULES } }
  const dark = await page.evaluate(() => matchMedia('(prefers-color-scheme: dark)').matches)
  return { runOnly: dark ? { type: 'rule' as const, values: DARK_RULES } : ALL_RULES }
}

async function expectNothingFound(page: Page, where: string, rules?: { runOnly: RunOptions['runOnly'] }) {
  // A tooltip under the mouse is not part of the screen.
  await page.mouse.move(0, 0)
  await expect(page.getByRole('tooltip')).toHaveCount(0)
  // Half of a change of colours has a contrast of its own.
  await atRest(page)
  const found = await new AxeBuilder({ page })
    // Pages in miniature are pictures; pages themselves are looked at in every theme below.
    .exclude('.miniature')
    // To list what passed as well takes four times as long.
    .options({ ...(rules ?? (await rulesOf(page))), resultTypes: ['violations'] })
    .setLegacyMode()
    .analyze()
  const said = found.violations.map(
    (violation) =>
      `${violation.id}: ${violation.help}\n  ${violation.nodes.map((node) => node.html.slice(0, 200)).join('\n  ')}`,
  )
  expect(said, where).toEqual([])
}

const screens = [
  { name: 'light', options: { viewport: { width: 1280, height: 800 } } },
  { name: 'dark', options: { viewport: { width: 1280, height: 800 }, colorScheme: 'dark' as const } },
  { name: 'phone', options: { viewport: { width: 390, height: 844 }, hasTouch: true } },
]

for (const screen of screens) {
  test.describe(screen.name, () => {
    test.use(screen.options)

    test('the studio with figures in it has no fault axe can find', async ({ page }) => {
      test.setTimeout(300_000) // some twenty views, each held against all rules
      await signIn(page, ILSE)
      await expect(page.locator('.rows .cell.total').first()).not.toHaveText('0')
      await expectNothingFound(page, 'Arrange')
      await expectNoSideways(page, 'Arrange')

      await page.locator('.rows li .piece').first().click()
      await expect(page.getByRole('complementary')).toBeVisible()
      await expectNothingFound(page, 'a button in the drawer')
      await page.keyboard.press('Escape')
      await page.getByRole('button', { name: 'Edit name, line and picture' }).click()
      await expectNothingFound(page, 'the header in the drawer')
      await page.keyboard.press('Escape')
      await page.getByRole('button', { name: 'Edit the profile icons' }).click()
      await page.getByRole('button', { name: 'Icon: camera' }).click()
      await expect(page.getByRole('dialog').locator('.icon').first()).toBeVisible()
      await expectNothingFound(page, 'the icon picker over the profile icons')
      await page.keyboard.press('Escape')
      await page.keyboard.press('Escape')

      await page.getByRole('button', { name: 'Publish', exact: true }).click()
      await expect(page.getByRole('dialog').getByRole('listitem').first()).toBeVisible()
      await expectNothingFound(page, 'Publish')
      await page.getByRole('button', { name: 'Not yet' }).click()
      await expect(page.getByRole('dialog')).toHaveCount(0)

      for (const [view, sign] of [
        ['Look', page.getByRole('button', { name: 'Signal' })],
        ['Sources', page.getByRole('button', { name: /^Copy the address for/ }).first()],
        ['Code and steps for Printed card', page.getByRole('img', { name: /^QR code/ })],
        ['Readings', page.locator('canvas')],
        ['Glaze recipes', page.getByRole('heading', { name: 'Its first days' })],
        ['All readings', page.getByRole('heading', { name: 'Who they are' })],
        ['Reelpond', page.getByRole('heading', { name: 'What they press' })],
        ['All readings', page.getByRole('heading', { name: 'Who they are' })],
        ['A page to print', page.getByRole('article')],
        ['Shelf', page.getByLabel('Destination')],
        ['Destinations', page.getByRole('list', { name: 'Destinations' }).getByRole('listitem').first()],
        ['Short links', page.getByRole('list', { name: 'Short links' })],
        ['seconds-sale', page.getByRole('complementary', { name: /^Short link/ })],
        ['Settings', page.getByRole('main').getByRole('link', { name: 'All pages' })],
        ['Privacy', page.getByRole('heading', { name: 'Never stored' })],
        ['About this page', page.getByRole('button', { name: 'Change address' })],
        ['Check', page.getByRole('heading', { name: 'Page check' })],
        ['Walk them all', page.getByRole('button', { name: 'Right' })],
      ] as const) {
        await page.getByRole('link', { name: view, exact: view !== 'seconds-sale' }).click()
        await expect(sign).toBeVisible()
        await expectNothingFound(page, view)
        await expectNoSideways(page, view)
      }
      const [, pageId] = /pages\/([^/?]+)/.exec(page.url())!
      for (const [path, sign] of [
        ['trials', page.getByRole('button', { name: 'Begin the trial' })],
        ['partners', page.getByLabel('Whose report')],
      ] as const) {
        await page.goto(`/pages/${pageId}/${path}`)
        await expect(sign).toBeVisible()
        await expectNothingFound(page, path)
        await expectNoSideways(page, path)
      }
      await page.goto('/pages')
      await expect(page.getByRole('button', { name: 'Add page' })).toBeVisible()
      await expectNothingFound(page, 'All pages')
      await expectNoSideways(page, 'All pages')
      await page.getByRole('combobox', { name: 'Page' }).click()
      await expect(page.getByRole('option').first()).toBeVisible()
      const choosing = new AxeBuilder({ page }).include('.p-select-overlay').withRules(['color-contrast'])
      expect((await choosing.setLegacyMode().analyze()).violations, 'another page is chosen').toEqual([])
      await page.keyboard.press('Escape')
      await page.getByRole('link', { name: /^live, edition/ }).click()
      await expect(page.getByRole('button', { name: /^Put edition \d+ back$/ })).toBeVisible()
      await expectNothingFound(page, 'Editions')
      await expectNoSideways(page, 'Editions')
      await page.getByRole('link', { name: 'Arrange', exact: true }).click()
      await page.locator('.rows li .piece').first().click()
      await page.getByText('When it shows, and to whom').click()
      await page.getByRole('button', { name: 'Every week' }).scrollIntoViewIfNeeded()
      await expectNothingFound(page, 'when it shows, and to whom')
      await page.getByText('Solo: alone for a while').click()
      await page.getByRole('button', { name: 'Let it stand alone' }).scrollIntoViewIfNeeded()
      await expectNothingFound(page, 'a solo')
      await page.keyboard.press('Escape')
      await page.getByRole('button', { name: 'The page as a whole' }).click()
      await expectNothingFound(page, 'the page as a whole')
      await page.keyboard.press('Escape')
      await page.getByRole('button', { name: 'Seen as of' }).click()
      await expect(page.getByRole('button', { name: 'Let others look' })).toBeVisible()
      await expectNothingFound(page, 'seen as of')
    })

    test('nor has it while it is empty', async ({ page }) => {
      for (const way of [
        '/sign-in',
        '/sign-up',
        '/forgotten-password',
        '/new-password#x',
        '/confirm-email#x',
      ]) {
        await page.goto(way)
        await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
        await expectNothingFound(page, way)
        await expectNoSideways(page, way)
      }
      await openAccount(page, freshName('empty'))
      await expect(page.getByRole('button', { name: /^Makers and potters/ })).toBeVisible()
      await expectNothingFound(page, 'the choice of ready-made pages')
      await expectNoSideways(page, 'the choice of ready-made pages')
      await page.getByRole('link', { name: 'Begin with an empty page' }).click()
      await expectNothingFound(page, 'Arrange without a button')
      await expectNoSideways(page, 'Arrange without a button')
      await page.getByRole('link', { name: 'Sources' }).click()
      await expect(page.getByText('No sources yet')).toBeVisible()
      await expectNothingFound(page, 'Sources without a source')
      await page.getByRole('link', { name: 'Readings' }).click()
      await expect(page.locator('canvas')).toBeVisible()
      await expectNothingFound(page, 'Readings without a visit')
    })

    test('nor has what is said when something stands between the creator and the page', async ({ page }) => {
      await openAccount(page, freshName('words'))
      await page.locator('.starters button').first().click()
      await expect(page.locator('.rows li').first()).toBeVisible()
      await settled(page)
      await page.getByRole('button', { name: 'Publish', exact: true }).click()
      await expect(page.getByRole('button', { name: 'Hide these' })).toBeVisible()
      await expectNothingFound(page, 'Publish, with placeholders')
      await page.getByRole('button', { name: 'Not yet' }).click()

      await page.getByLabel('Paste an address to add a button').evaluate((line) => {
        const text = new DataTransfer()
        text.setData('text', 'https://kiln.example/a\nVAT no. 123456789')
        line.dispatchEvent(
          new ClipboardEvent('paste', { clipboardData: text, bubbles: true, cancelable: true }),
        )
      })
      await expect(page.getByRole('dialog', { name: '2 lines' })).toBeVisible()
      await expectNothingFound(page, 'several pasted lines')
      await page.keyboard.press('Escape')

      const choice = await disagree(page)
      await expectNothingFound(page, 'a choice between two changes')
      await expectNoSideways(page, 'a choice between two changes')
      await choice.getByRole('button', { name: 'Keep what is on my screen' }).click()
      await settled(page)

      await page.getByRole('link', { name: 'Shelf' }).click()
      await page.getByRole('button', { name: 'From a list' }).click()
      await expectNothingFound(page, 'a list of short links')
      await page.keyboard.press('Escape')

      await page.getByRole('link', { name: 'Readings' }).click()
      await page.getByLabel('Whom it is for').fill('The gallery')
      await page.getByRole('button', { name: 'Make an address' }).click()
      await expect(page.getByRole('button', { name: /^Close/ })).toBeVisible()
      await expectNothingFound(page, 'figures that are shared')

      await page.getByRole('link', { name: 'Settings' }).click()
      await page.getByRole('combobox', { name: 'Keep raw events for' }).click()
      await page.getByRole('option', { name: '30 days' }).click()
      await expect(page.getByRole('alertdialog')).toBeVisible()
      await expectNothingFound(page, 'what cannot be taken back')
      await page.getByRole('button', { name: /^Leave it at/ }).click()

      const back = await endSession(page)
      await page.getByRole('link', { name: 'Arrange' }).click()
      await expect(page.getByRole('dialog', { name: /session/i })).toBeVisible()
      await expectNothingFound(page, 'a session that ended')
      await back()
    })

    test('nor have the dialogs and menus something is chosen in', async ({ page }) => {
      await startEmpty(page, freshName('choices'))
      await page.getByRole('button', { name: 'Add a block' }).click()
      await page.getByRole('menuitem', { name: 'Button' }).focus()
      await expectNothingFound(page, 'Add a block')
      await page.getByRole('menuitem', { name: 'Button' }).click()
      await page.getByRole('radio', { name: 'Emoji' }).check()
      await page.getByRole('button', { name: 'Choose an emoji' }).click()
      await expect(page.getByRole('button', { name: 'grinning face', exact: true })).toBeVisible()
      await expectNothingFound(page, 'Choose an emoji')
      await expectNoSideways(page, 'Choose an emoji')
      await page.getByRole('button', { name: 'grinning face', exact: true }).click()
      await page.keyboard.press('Escape')

      await page.getByRole('button', { name: 'Edit name, line and picture' }).click()
      await page.getByLabel('Picture: file').setInputFiles(picture('portrait.png', 400, 300))
      await expect(page.locator('.vue-circle-stencil')).toBeVisible()
      await expectNothingFound(page, 'Cut the picture')
      await page.getByRole('dialog').getByRole('button', { name: 'Cancel' }).click()
      await page.keyboard.press('Escape')

      await page.getByRole('link', { name: 'Look' }).click()
      await page.getByRole('button', { name: 'Keep this look as a theme' }).click()
      await expectNothingFound(page, 'naming a theme')
      await page.keyboard.press('Escape')
      await page.getByRole('link', { name: 'Settings' }).click()
      await page.getByRole('button', { name: 'Erase everything…' }).click()
      await expect(page.getByRole('dialog')).toBeVisible()
      await expectNothingFound(page, 'erasing everything')
    })

    test('nor have the pages visitors see', async ({ page }) => {
      for (const path of ['/quarrow-clay', '/quarrow-workshops/card', '/nobody-is-here']) {
        await page.goto(PUBLIC + path)
        await expectNothingFound(page, path, OF_PAGES)
        await expectNoSideways(page, path)
      }
    })
  })
}

test('a page has no fault axe can find, and nothing shifts, in any theme', async ({ page, browser }) => {
  const address = freshName('themed')
  await openAccount(page, address)
  await page.getByRole('button', { name: /^Makers and potters/ }).click()
  await expect(page.locator('.rows > li').first()).toBeVisible()
  await publish(page)
  const id = /pages\/([^/]+)\//.exec(page.url())![1]
  const themes = (await (await page.request.get(`/api/pages/${id}/themes`)).json()) as {
    name: string
    look: object
  }[]
  expect(themes.length).toBeGreaterThanOrEqual(10)
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } })
  const visitor = await context.newPage()
  await visitor.addInitScript(() => {
    Object.assign(window, { shifted: 0 })
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries())
        (window as unknown as { shifted: number }).shifted += (entry as unknown as { value: number }).value
    }).observe({ type: 'layout-shift', buffered: true })
  })
  for (const theme of themes) {
    const now = await (await page.request.get(`/api/pages/${id}`)).json()
    const saved = await page.request.put(`/api/pages/${id}/draft`, {
      data: { revision: now.revision, document: { ...now.document, look: theme.look } },
    })
    const { revision } = await saved.json()
    await page.request.post(`/api/pages/${id}/publish`, { data: { revision } })
    await expect(async () => {
      await visitor.goto(`${PUBLIC}/${address}`, { waitUntil: 'networkidle' })
      const edition = await visitor.locator('.button').first().getAttribute('href')
      expect(edition).toContain(`/-/${now.liveEdition + 1}/`)
    }).toPass()
    await expectNothingFound(visitor, theme.name, OF_PAGES)
    expect(await visitor.evaluate(() => (window as unknown as { shifted: number }).shifted), theme.name).toBe(
      0,
    )
  }
})
