import { expect, test, type Page } from '@playwright/test'
import {
  freshName,
  paste,
  phoneVisitor,
  publish,
  putIntoProfile,
  row,
  signIn,
  signUp,
  titles,
} from './support/people'
import { settled } from './support/lines'
import { PUBLIC, STANDINS } from './support/places'

async function addSource(page: Page, name: string) {
  await page.getByLabel('Another place').fill(name)
  await page.getByRole('button', { name: 'Add source' }).click()
  await expect(page.getByRole('row', { name })).toContainText('not seen yet')
  await page.evaluate(() => navigator.clipboard.writeText(''))
  await page.getByRole('button', { name: `Copy the address for ${name}` }).click()
  await expect.poll(() => page.evaluate(() => navigator.clipboard.readText())).toContain('/')
  return page.evaluate(() => navigator.clipboard.readText())
}

/** The cell of Readings in the row of a button and the column of a source. */
async function cell(page: Page, button: string, source: string) {
  const table = page.getByRole('region', { name: 'Buttons by sources' })
  await expect(table.getByRole('columnheader', { name: source })).toBeVisible()
  const heads = await table.getByRole('columnheader').allTextContents()
  const line = table.getByRole('row', { name: button })
  return line.locator('td').nth(heads.indexOf(source) - 1)
}

test('a new user builds a page, hands it out, and reads which button was pressed from where', async ({
  browser,
  context,
  page,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write'])
  const address = freshName('river-kiln')
  await signUp(page, address)
  // Anything that loaded the page anew would lose this.
  await page.evaluate(() => Object.assign(window, { notReloaded: true }))

  await test.step('say who this is', async () => {
    await page.getByRole('button', { name: 'Edit name, line and picture' }).click()
    await page.getByLabel('Name', { exact: true }).fill('River Kiln')
    await page.getByLabel('One line about yourself').fill('Bowls by the water')
    await page.getByLabel('Name', { exact: true }).focus()
    await expect(
      page.locator('.piece.top').getByRole('heading', { name: 'River Kiln', includeHidden: true }),
    ).toBeVisible()
    await page.getByRole('button', { name: 'Close the editor' }).click()
  })

  await test.step('paste addresses, whose titles and pictures fill themselves in', async () => {
    await paste(page, 'shop.quarrow.example/seconds', 'Seconds sale')
    await paste(page, 'https://quarrow.example/kiln-openings', 'Kiln opening dates')
    await paste(page, 'https://wavecastle.example/watch/forty-hours', 'Forty hours of fire')
    await expect(row(page, 'Seconds sale').locator('.fragment img')).toBeVisible()
    await expect
      .poll(() => titles(page))
      .toEqual(['Seconds sale', 'Kiln opening dates', 'Forty hours of fire'])
  })

  await test.step('rename in place', async () => {
    await row(page, 'Forty hours of fire').focus()
    await page.keyboard.press('F2')
    await page.getByRole('textbox', { name: 'Title' }).fill('The film')
    await page.keyboard.press('Enter')
    await expect(row(page, 'The film').locator('.fragment')).toContainText('The film')
  })

  await test.step('reorder by drag and by key', async () => {
    await expect(page.getByText('saving…')).toHaveCount(0)
    const grip = row(page, 'The film').locator('.grip')
    const target = await row(page, 'Seconds sale').boundingBox()
    const from = await grip.boundingBox()
    if (!target || !from) throw new Error('the rows are not there')
    await page.mouse.move(from.x + 8, from.y + 12)
    await page.mouse.down()
    // As a hand does: on, until the row has gone where it is to go. Rows that make way take a moment.
    await expect(async () => {
      await page.mouse.move(from.x + 8, target.y + target.height / 2, { steps: 6 })
      await page.mouse.move(from.x + 8, target.y + 6, { steps: 6 })
      expect(await titles(page)).toEqual(['The film', 'Seconds sale', 'Kiln opening dates'])
    }).toPass()
    await page.mouse.up()
    await settled(page)
    await expect.poll(() => titles(page)).toEqual(['The film', 'Seconds sale', 'Kiln opening dates'])

    await row(page, 'Kiln opening dates').focus()
    await page.keyboard.press('Alt+ArrowUp')
    await expect.poll(() => titles(page)).toEqual(['The film', 'Kiln opening dates', 'Seconds sale'])
    await expect(row(page, 'Kiln opening dates')).toBeFocused()
  })

  await test.step('delete, and take it back', async () => {
    await row(page, 'Seconds sale').focus()
    await page.keyboard.press('Delete')
    await expect(row(page, 'Seconds sale')).toHaveCount(0)
    const notice = page.getByRole('status').filter({ hasText: '“Seconds sale” is deleted' })
    await notice.getByRole('button', { name: 'Undo' }).click()
    await expect(row(page, 'Seconds sale')).toBeVisible()
    await page.keyboard.press('Control+Shift+z')
    await expect(row(page, 'Seconds sale')).toHaveCount(0)
    await page.keyboard.press('Control+z')
    await expect(row(page, 'Seconds sale')).toBeVisible()
  })

  expect(await publish(page)).toEqual(['The page goes live for the first time, with 3 blocks.'])

  let loft = ''
  let moss = ''
  await test.step('an address for each profile', async () => {
    await page.getByRole('link', { name: 'Sources' }).click()
    loft = await addSource(page, 'Photoloft')
    moss = await addSource(page, 'Pinmoss')
    expect(loft).toBe(`${PUBLIC}/${address}/photoloft`)
    const profiles = await context.newPage()
    await putIntoProfile(profiles, 'photoloft', address, loft)
    await putIntoProfile(profiles, 'pinmoss', address, moss)
    await profiles.close()
  })

  await test.step('a first visitor comes from one profile and presses two buttons', async () => {
    const visitor = await phoneVisitor(browser)
    await visitor.goto(`${STANDINS}/profile/photoloft/${address}`)
    await visitor.getByRole('link', { name: loft }).click()
    await expect(visitor.getByRole('heading', { name: 'River Kiln' })).toBeVisible()
    await visitor.getByRole('link', { name: 'Kiln opening dates' }).click()
    await expect(visitor.getByText('quarrow.example/kiln-openings')).toBeVisible()
    await visitor.goto(loft)
    await visitor.getByRole('link', { name: 'The film' }).click()
    await expect(visitor.frameLocator('iframe').getByText('Playing: Forty hours')).toBeVisible()
    await visitor.context().close()
  })

  await test.step('a second comes from the other and presses one twice', async () => {
    const visitor = await phoneVisitor(browser)
    await visitor.goto(`${STANDINS}/profile/pinmoss/${address}`)
    await visitor.getByRole('link', { name: moss }).click()
    for (let press = 0; press < 2; press++) {
      await visitor.goto(moss)
      await visitor.getByRole('link', { name: 'Seconds sale' }).click()
      await expect(visitor.getByRole('heading', { name: 'Seconds sale' })).toBeVisible()
    }
    await visitor.context().close()
  })

  await test.step('the creator tries it too, and is not counted', async () => {
    const opened = context.waitForEvent('page')
    await page.getByRole('link', { name: 'Open the page' }).click()
    const own = await opened
    await own.getByRole('link', { name: 'Seconds sale' }).click()
    await expect(own.getByRole('heading', { name: 'Seconds sale' })).toBeVisible()
    await own.close()
    // In another browser of theirs they sign in, and type the address by hand.
    const elsewhere = await browser.newContext()
    const typed = await elsewhere.newPage()
    await signIn(typed, { email: `${address}@quarrow.example`, password: 'clay and water and fire' })
    await typed.goto(loft)
    await expect(typed.getByRole('heading', { name: 'River Kiln' })).toBeVisible()
    await elsewhere.close()
  })

  await test.step('the sources were seen', async () => {
    await expect(page.getByRole('row', { name: 'Photoloft' })).toContainText('seen ')
    await expect(page.getByRole('row', { name: 'Pinmoss' })).toContainText('seen ')
  })

  await test.step('the right numbers stand beside the strip', async () => {
    await page.getByRole('link', { name: 'Arrange' }).click()
    const figure = (button: string, lane: string) => row(page, button).locator(`[data-lane="${lane}"]`)
    await expect(figure('Kiln opening dates', 'Photoloft')).toHaveText('1')
    await expect(figure('The film', 'Photoloft')).toHaveText('1')
    await expect(figure('Seconds sale', 'Photoloft')).toHaveText('0')
    await expect(figure('Seconds sale', 'Pinmoss')).toHaveText('1')
    await expect(figure('Seconds sale', 'Untagged')).toHaveText('')
  })

  await test.step('and in Readings', async () => {
    await page.getByRole('link', { name: 'Readings' }).click()
    await expect(await cell(page, 'Kiln opening dates', 'Photoloft')).toContainText('1')
    await expect(await cell(page, 'Seconds sale', 'Pinmoss')).toContainText('1')
    await expect(await cell(page, 'Seconds sale', 'Photoloft')).toContainText('0')
    const headline = page.getByRole('region', { name: 'Headline figures' })
    await expect(headline).toContainText('28 more visits needed')
    await expect(headline.locator('.figure', { hasText: 'Clicks' }).locator('.value')).toHaveText('3')
    const leftOut = page.locator('.left-out')
    await expect(leftOut).toContainText('3 your own')
    await expect(leftOut).toContainText('repeats within 30 seconds')
  })

  expect(await page.evaluate(() => 'notReloaded' in window)).toBe(true)
})
