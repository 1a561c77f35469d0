import { expect, test, type Page } from '@playwright/test'
import { picture } from './support/files'
import { letterTo, linkIn } from './support/letters'
import { atRest, settled } from './support/lines'
import {
  emailOf,
  freshName,
  ILSE,
  openAccount,
  PASSWORD,
  paste,
  row,
  signIn,
  startEmpty,
} from './support/people'
import { SIZES } from './support/sizes'

/** What has the focus, what keeps it from being seen, nothing if all is well, and whether it had it before. */
function focusNow() {
  const at = document.activeElement
  if (!at || at === document.body) return { name: '', hidden: '', again: false }
  const { passed = new Set<Element>() } = window as unknown as { passed?: Set<Element> }
  // A field for a date and time has several places to stop at.
  const within = at.matches('input[type=datetime-local]') && [...passed].at(-1) === at
  const again = !within && passed.has(at)
  passed.add(at)
  const labels = (at as HTMLInputElement).labels
  const name =
    at.getAttribute('aria-label') ||
    at.textContent?.trim().slice(0, 40) ||
    labels?.[0]?.textContent ||
    at.tagName
  // A choice that is drawn by its label is seen where the label is.
  const seen = at.matches('input') && at.closest('label') ? at.closest('label')! : at
  const box = seen.getBoundingClientRect()
  const [left, right] = [Math.max(box.left, 0), Math.min(box.right, innerWidth)]
  const [top, bottom] = [Math.max(box.top, 0), Math.min(box.bottom, innerHeight)]
  if (right - left < 1 || bottom - top < 1) return { name, hidden: 'it is off the screen', again }
  const over = [0.5, 0.15, 0.85]
    .map((part) => document.elementFromPoint(left + (right - left) * 0.5, top + (bottom - top) * part))
    .filter(
      (each) =>
        each && !seen.contains(each) && !each.contains(seen) && !each.closest('.p-toast, [role=tooltip]'),
    )
  const hidden = over.length === 3 ? `${over[0]!.className || over[0]!.tagName} lies over it` : ''
  return { name, hidden, again }
}

/** Goes once through a screen, or the dialog over it, by Tab, and says what of it had the focus out of sight. */
async function tabThrough(page: Page, most = 180) {
  const hidden: string[] = []
  const names = new Set<string>()
  // A dialog takes the focus once it has come in.
  await atRest(page)
  await page.evaluate(() => {
    Object.assign(window, { passed: new Set<Element>() })
    const start = ['[role=dialog]', '[data-opened]', 'body']
      .map((each) => document.querySelector<HTMLElement>(each))
      .find(Boolean)!
    const tabIndex = start.getAttribute('tabindex')
    start.tabIndex = -1
    start.focus()
    if (tabIndex === null) start.removeAttribute('tabindex')
    else start.setAttribute('tabindex', tabIndex)
  })
  for (let stop = 0; stop < most; stop++) {
    await page.keyboard.press('Tab')
    const focus = await page.evaluate(focusNow)
    if (!focus.name || focus.again) return { hidden, names }
    names.add(focus.name)
    if (focus.hidden) hidden.push(`${focus.name}: ${focus.hidden}`)
  }
  throw new Error(
    `after ${most} stops the end was not reached; the last were ${[...names].slice(-5).join(', ')}`,
  )
}

for (const size of SIZES)
  test.describe(size.name, () => {
    test.use(size.options)

    test('every screen can be gone through by Tab, with the focus in sight', async ({ page }) => {
      await page.goto('/sign-in')
      expect((await tabThrough(page)).hidden, 'signing in').toEqual([])
      await signIn(page, ILSE)
      for (const [view, sign, reached] of [
        ['Arrange', page.locator('.rows li').first(), 'Publish'],
        ['Look', page.getByRole('button', { name: 'Signal' }), 'Signal'],
        ['Sources', page.getByRole('button', { name: /^Copy the address for/ }).first(), 'Another place'],
        ['Code and steps for Printed card', page.getByRole('img', { name: /^QR code/ }), 'Print'],
        ['Readings', page.locator('canvas'), 'Buttons by sources'],
        ['Shelf', page.getByRole('list', { name: 'Short links' }), 'From a list'],
        ['Settings', page.getByRole('main').getByRole('link', { name: 'All pages' }), 'Show the code'],
        ['Privacy', page.getByRole('heading', { name: 'Never stored' }), 'Settings'],
        ['About this page', page.getByRole('button', { name: 'Change address' }), 'Tag them for your own'],
        ['Check', page.getByRole('heading', { name: 'Page check' }), 'Ask all addresses now'],
        ['Walk them all', page.getByRole('button', { name: 'Right' }), 'Wrong'],
      ] as const) {
        await page.getByRole('link', { name: view, exact: true }).click()
        await expect(sign).toBeVisible()
        const { hidden, names } = await tabThrough(page)
        expect(hidden, view).toEqual([])
        expect([...names].join('\n'), view).toContain(reached)
      }
      await page.goto('/pages')
      await expect(page.getByRole('button', { name: 'Add page' })).toBeVisible()
      const { hidden: unseen, names: reached } = await tabThrough(page)
      expect(unseen, 'All pages').toEqual([])
      expect([...reached].join('\n'), 'All pages').toContain('Settings of Quarrow Clay')
      await page.getByRole('link', { name: /^live, edition/ }).click()
      await expect(page.getByRole('button', { name: /^Put edition \d+ back$/ })).toBeVisible()
      expect((await tabThrough(page)).hidden, 'Editions').toEqual([])
      await page.getByRole('link', { name: 'Arrange', exact: true }).click()
      await page.getByRole('button', { name: 'The page as a whole' }).click()
      const { hidden, names } = await tabThrough(page)
      expect(hidden, 'the page as a whole').toEqual([])
      expect([...names].join('\n')).toContain('Lead straight there')
    })

    test('and so can signing up, the ready-made pages and every dialog', async ({ page }) => {
      const expectInSight = async (where: string, reached: string) => {
        const { hidden, names } = await tabThrough(page)
        expect(hidden, where).toEqual([])
        expect([...names].join('\n'), where).toContain(reached)
      }
      await page.goto('/sign-up')
      await expect(page.getByLabel('Page address')).toBeVisible()
      await expectInSight('signing up', 'Send me the link')
      await openAccount(page, freshName('tabs'))
      await expect(page.getByRole('button', { name: /^Makers and potters/ })).toBeVisible()
      await expectInSight('the ready-made pages', 'Makers and potters')
      await page.getByRole('button', { name: /^Makers and potters/ }).click()
      await expect(page.locator('.rows > li').first()).toBeVisible()

      await settled(page)
      const publish = page.getByRole('button', { name: 'Publish', exact: true })
      await publish.click()
      await expect(page.getByRole('button', { name: 'Publish now' })).toBeFocused()
      await expectInSight('Publish, with placeholders', 'Hide these')
      await page.keyboard.press('Escape')
      await expect(publish).toBeFocused()

      await page.locator('.rows > li .piece').first().click()
      await expect(page.getByRole('complementary')).toBeVisible()
      await expectInSight('an editor beside the page', 'Close the editor')
      for (const [choice, opens, reached] of [
        ['Icon', /^Choose/, 'Cancel'],
        ['Emoji', /^Choose/, 'Cancel'],
      ] as const) {
        await page.getByRole('radio', { name: choice, exact: true }).check()
        await page.getByRole('complementary').getByRole('button', { name: opens }).click()
        await expect(page.getByRole('dialog').getByRole('button').nth(20)).toBeVisible()
        await expectInSight(`choosing: ${choice}`, reached)
        await page.keyboard.press('Escape')
        await expect(page.getByRole('dialog')).toHaveCount(0)
      }
      await page.getByRole('button', { name: 'Add a block' }).focus()
      await expect
        .poll(() => page.evaluate(focusNow), 'the editor makes room for what has the focus')
        .toMatchObject({ name: 'Add a block', hidden: '' })
      await page.keyboard.press('Escape')

      await page.getByRole('button', { name: 'Edit name, line and picture' }).click()
      await page.getByLabel('Picture: file').setInputFiles(picture('portrait.png', 400, 300))
      await expect(page.getByRole('button', { name: 'Use this cut' })).toBeEnabled()
      await expectInSight('cutting a picture', 'Use this cut')
      await page.getByRole('dialog').getByRole('button', { name: 'Cancel' }).click()
      await page.keyboard.press('Escape')

      await page.getByRole('link', { name: 'Look' }).click()
      await page.getByRole('button', { name: 'Keep this look as a theme' }).click()
      await expectInSight('naming a theme', 'Name')
      await page.keyboard.press('Escape')
      await page.getByRole('link', { name: 'Shelf' }).click()
      await page.getByRole('button', { name: 'From a list' }).click()
      await expectInSight('a list of short links', 'Choose a file')
      await page.keyboard.press('Escape')
      await page.getByRole('link', { name: 'Settings' }).click()
      await page.getByRole('button', { name: 'Erase everything…' }).click()
      await expectInSight('erasing everything', 'Keep it')
    })
  })

test('figures are gone through by arrows, and each says how sure it is', async ({ page }) => {
  await signIn(page, ILSE)
  await expect(page.locator('.figures .total').first()).not.toHaveText('0')
  const first = page.locator('.rows li').first()
  await first.focus()
  await page.keyboard.press('ArrowRight')
  await expect(page.getByRole('tooltip')).toContainText('Photoloft')
  await expect(page.getByRole('tooltip')).toContainText('with 95 % confidence between')
  await page.keyboard.press('ArrowDown')
  await expect(page.locator('.rows li').nth(1).locator(':focus')).toHaveAccessibleName(/^Photoloft: /)
  await page.keyboard.press('End')
  await expect(page.locator(':focus')).toHaveAccessibleName(/visits with it on the page pressed it/)
  await page.keyboard.press('Escape')
  await expect(page.locator('.rows li').nth(1)).toBeFocused()

  await page.getByRole('link', { name: 'Readings' }).click()
  const table = page.getByRole('region', { name: 'Buttons by sources' })
  // Sources and buttons are links of their own; of all figures one takes the Tab.
  await table.getByRole('columnheader').getByRole('link').last().focus()
  await page.keyboard.press('Tab')
  await page.keyboard.press('Tab')
  await page.keyboard.press('Tab')
  await expect(page.getByRole('tooltip')).toContainText('with 95 % confidence between')
  await page.keyboard.press('End')
  await page.keyboard.press('ArrowDown')
  await expect(table.locator(':focus')).toHaveAccessibleName(/visits with it on the page pressed it/)
})

test('arrows choose what stands before a title without opening anything', async ({ page }) => {
  await startEmpty(page, freshName('arrows'))
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  await page.keyboard.press('Enter')
  const before = page.getByRole('group', { name: 'Before the title' })
  await before.getByRole('radio', { checked: true }).focus()
  for (const on of ['Picture', 'Icon', 'Emoji', 'Nothing', 'Picture', 'Icon']) {
    await page.keyboard.press('ArrowRight')
    await expect(before.getByRole('radio', { name: on })).toBeChecked()
    await expect(page.getByRole('dialog')).toHaveCount(0)
  }
  await page.keyboard.press('Tab')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('dialog', { name: 'Choose an icon' })).toBeVisible()
})

test('the frame of a cut is moved and made smaller by keys', async ({ page }) => {
  await startEmpty(page, freshName('frame'))
  await page.getByRole('button', { name: 'Edit name, line and picture' }).click()
  await page.getByLabel('Picture: file').setInputFiles(picture('portrait.png', 400, 400))
  await expect(page.getByRole('button', { name: 'Use this cut' })).toBeEnabled()
  await page.getByRole('application', { name: 'The circle of the cut' }).focus()
  for (let n = 0; n < 5; n++) await page.keyboard.press('-')
  for (let n = 0; n < 9; n++) await page.keyboard.press('ArrowLeft')
  await page.keyboard.press('ArrowUp')
  const cut = page.waitForRequest('**/api/pictures/cut')
  await page.getByRole('button', { name: 'Use this cut' }).click()
  const { cut: sent } = (await cut).postDataJSON() as { cut: Record<string, number> }
  expect(sent.x).toBe(0)
  expect(sent.width).toBeLessThan(330)
  expect(sent.width).toBeGreaterThan(290)
  expect(sent.y).toBeGreaterThan(15)
  expect(sent.y).toBeLessThan(45)
  await settled(page)
})

test('a page comes to be and goes live without a mouse', async ({ page }) => {
  const name = freshName('keys')
  await page.goto('/sign-up')
  await page.getByLabel('Page address').focus()
  for (const text of [name, emailOf(name)]) {
    await page.keyboard.type(text)
    await page.keyboard.press('Tab')
  }
  await page.keyboard.press('Enter')
  await page.goto(linkIn(await letterTo(page.request, emailOf(name), /^Open your account$/)))
  await expect(page.getByLabel('Password')).toBeFocused()
  await page.keyboard.type(PASSWORD)
  await page.keyboard.press('Enter')
  await expect(page.getByText('not published yet')).toBeVisible()
  await page.getByRole('link', { name: 'Begin with an empty page' }).press('Enter')
  await page.getByLabel('Paste an address to add a button').press('Shift+Tab')
  await page.keyboard.press('Tab')
  await page.keyboard.type('quarrow.example/stockists')
  await page.keyboard.press('Enter')
  await expect(row(page, 'Where to find our pots')).toBeFocused()
  await page.keyboard.press('F2')
  await page.keyboard.type('Our pots')
  await page.keyboard.press('Enter')
  await expect(row(page, 'Our pots')).toBeFocused()
  await settled(page)
  await page.getByRole('button', { name: 'Publish', exact: true }).press('Enter')
  await expect(page.getByRole('button', { name: 'Publish now' })).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(page.getByText('live, edition 1, nothing waiting')).toBeVisible()
})

test('a step is undone by keys in every view, and the row that had the focus or the one above it has it', async ({
  page,
}) => {
  await startEmpty(page, freshName('undone'))
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  await paste(page, 'https://shop.quarrow.example/seconds', 'Seconds sale')
  const focused = () =>
    page.evaluate(() => document.activeElement?.closest<HTMLElement>('[data-key]')?.dataset.key ?? '')
  await row(page, 'Seconds sale').focus()
  const sale = await focused()
  expect(sale).toBeTruthy()
  await page.keyboard.press('d')
  await expect(row(page, 'Seconds sale')).toHaveCount(2)
  await page.keyboard.press('Control+z')
  await expect(row(page, 'Seconds sale')).toHaveCount(1)
  await expect.poll(focused).toBe(sale)
  await page.keyboard.press('Alt+ArrowUp')
  await page.keyboard.press('Control+z')
  await expect.poll(focused).toBe(sale)
  await settled(page)

  await page.getByRole('link', { name: 'Look', exact: true }).click()
  const outlined = page.getByRole('radio', { name: 'Outlined', exact: true })
  await outlined.check({ force: true })
  await page.keyboard.press('Control+z')
  await expect(outlined).not.toBeChecked()
})

test('an address of the studio that leads nowhere says so', async ({ page }) => {
  await startEmpty(page, freshName('nowhere'))
  await page.goto('/settings/nothing/here')
  await expect(page.getByRole('heading', { name: 'There is nothing at this address' })).toBeVisible()
  await page.getByRole('link', { name: 'To my pages' }).click()
  await expect(page).toHaveURL(/\/pages$/)
})

test('whoever waits for the studio to open reads that it opens', async ({ page }) => {
  await page.route('**/api/me', async (route) => {
    await new Promise((done) => setTimeout(done, 1500))
    await route.continue()
  })
  await page.goto('/')
  await expect(page.getByText('Opening the studio…')).toBeVisible()
  await expect(page.getByText('Opening the studio…')).toHaveCount(0)
})
