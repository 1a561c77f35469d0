import { expect, test, type Page } from '@playwright/test'
import { picture } from './support/files'
import { saved, settled } from './support/lines'
import {
  freshName,
  ILSE,
  openAccount,
  paste,
  phoneVisitor,
  publish,
  signIn,
  signOut,
  startEmpty,
} from './support/people'
import { PUBLIC } from './support/places'
import { SIZES } from './support/sizes'

async function moveTo(page: Page, address: string) {
  await page.getByLabel(`${PUBLIC}/`).fill(address)
  const changed = page.waitForResponse(
    (answer) => answer.request().method() === 'PUT' && /address$/.test(answer.url()),
  )
  await page.getByRole('button', { name: 'Change address' }).click()
  expect((await changed).ok()).toBe(true)
}

for (const size of SIZES)
  test.describe(size.name, () => {
    test.use(size.options)

    test('an address that is changed and changed back opens in a browser that saw both', async ({
      browser,
      page,
    }) => {
      const [before, after] = [freshName('there'), freshName('back-again')]
      await startEmpty(page, before)
      await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
      await publish(page)
      const visitor = await phoneVisitor(browser)
      await page.getByRole('link', { name: 'About this page' }).click()
      for (const address of [after, before, after, before]) {
        await moveTo(page, address)
        for (const asked of [before, after, `${after}/`]) {
          await visitor.goto(`${PUBLIC}/${asked}`)
          await expect(visitor.getByRole('link', { name: 'Where to find our pots' })).toBeVisible()
        }
      }
      await visitor.context().close()
    })

    test('a share address is shown with the link it was made for, and no other', async ({ page }) => {
      await startEmpty(page, freshName('shared'))
      await page.getByRole('link', { name: 'Shelf' }).click()
      const panel = page.getByRole('complementary')
      for (const to of ['kiln.example/one', 'kiln.example/two']) {
        await page.getByRole('form', { name: 'New short link' }).getByLabel('Leads to').fill(to)
        await page.keyboard.press('Enter')
        await expect(panel.getByLabel('Destination')).toHaveValue(`https://${to}`)
        if (size.phone && to.endsWith('one'))
          await page.getByRole('button', { name: 'Close the short link' }).click()
      }
      await panel.getByLabel('Whom it is for').fill('The gallery')
      await panel.getByRole('button', { name: 'Make an address' }).click()
      await expect(panel.getByText('It is shown this once')).toBeVisible()
      if (size.phone) await page.getByRole('button', { name: 'Close the short link' }).click()
      await page.getByRole('list', { name: 'Short links' }).getByRole('link').nth(1).click()
      await expect(panel.getByLabel('Destination')).toHaveValue('https://kiln.example/one')
      await expect(panel.getByText('It is shown this once')).toHaveCount(0)
    })

    test('whoever was refused again and again while signing up can sign in afterwards', async ({ page }) => {
      const name = freshName('at-last')
      await page.goto('/sign-up')
      await page.getByLabel('E-mail address').fill(`${name}@quarrow.example`)
      for (let tried = 0; tried < 9; tried++) {
        await page.getByLabel('Page address').fill(tried % 2 ? 'quarrow-clay' : 'admin')
        await page.getByRole('button', { name: 'Send me the link' }).click()
        await expect(page.getByText(tried % 2 ? 'is taken' : 'kept for the service')).toBeVisible()
      }
      await openAccount(page, name)
      await signOut(page)
      await page.getByLabel('E-mail address').fill(`${name}@quarrow.example`)
      await page.getByLabel('Password').fill('clay and water and fire')
      await page.getByRole('button', { name: 'Sign in', exact: true }).click()
      await expect(page.getByText('not published yet')).toBeVisible()
    })

    test('a double click publishes one edition, and a tab that is looked at again knows of it', async ({
      page,
    }) => {
      await startEmpty(page, freshName('double'))
      await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
      const other = await page.context().newPage()
      await other.goto(page.url())
      await expect(other.getByText('not published yet')).toBeVisible()
      await page.getByRole('button', { name: 'Publish', exact: true }).click()
      await page.getByRole('button', { name: 'Publish now' }).dblclick()
      await expect(page.getByText('live, edition 1, nothing waiting')).toBeVisible()
      await page.reload()
      await expect(page.getByText('live, edition 1, nothing waiting')).toBeVisible()
      await other.evaluate(() => window.dispatchEvent(new Event('focus')))
      await expect(other.getByText('live, edition 1, nothing waiting')).toBeVisible()
      await expect(other.getByRole('button', { name: 'Publish', exact: true })).toBeDisabled()
    })

    test('what has no name is published under where it leads', async ({ browser, page }) => {
      const address = freshName('nameless')
      await startEmpty(page, address)
      await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
      await page.locator('.rows li .piece').click()
      await page.getByLabel('Title', { exact: true }).fill('')
      await page.keyboard.press('Escape')
      await settled(page)
      await expect(page.locator('.row.head h1').getByText(address), 'in Arrange as on the page').toBeVisible()
      await page.getByRole('button', { name: 'Publish', exact: true }).click()
      const dialog = page.getByRole('dialog')
      await expect(dialog).toContainText(
        `The page has no name: at the top visitors read its address, ${address}.`,
      )
      await dialog.getByRole('button', { name: 'Fill in Name' }).click()
      await expect(page.getByLabel('Name', { exact: true })).toBeVisible()
      await page.keyboard.press('Escape')
      await publish(page)
      const visitor = await phoneVisitor(browser)
      await visitor.goto(`${PUBLIC}/${address}`)
      await expect(visitor.getByRole('link', { name: 'quarrow.example' })).toBeVisible()
      await expect(visitor.getByRole('heading', { level: 1 })).toHaveText(address)
      await visitor.context().close()
    })

    test('a picture is cut whole to begin with, and flipped the way it is seen, also when it is turned', async ({
      page,
    }) => {
      await startEmpty(page, freshName('cut'))
      await page.getByRole('button', { name: 'Edit name, line and picture' }).click()
      const choose = (width: number, height: number) =>
        page.getByLabel('Picture: file').setInputFiles(picture('portrait.png', width, height))
      const cut = async () => (await saved(page)).header.picture?.cut
      await choose(30, 30)
      await page.getByRole('button', { name: 'Use this cut' }).click()
      await settled(page)
      await expect.poll(cut).toMatchObject({ x: 0, y: 0, width: 30, height: 30 })
      await choose(400, 400)
      await expect(page.getByRole('button', { name: 'Use this cut' })).toBeEnabled()
      await page.getByRole('button', { name: 'Turn' }).click()
      await page.getByRole('button', { name: 'Change left and right over' }).click()
      await page.getByRole('button', { name: 'Use this cut' }).click()
      await settled(page)
      await expect.poll(cut).toMatchObject({ width: 400, height: 400, turn: 90, flipX: false, flipY: true })
    })

    test('where no one colour can be read, another background is offered', async ({ page }) => {
      await startEmpty(page, freshName('contrast'))
      await page.getByRole('link', { name: 'Look' }).click()
      await page.getByRole('radio', { name: 'Gradient' }).check()
      await page.getByLabel('Colour 1', { exact: true }).fill('#ffffff')
      await page.getByLabel('Colour 2', { exact: true }).fill('#000000')
      await expect(
        page.getByText('No one colour of text can be read on all of this background'),
      ).toBeVisible()
      await expect(page.getByRole('button', { name: /^Use #/ })).toHaveCount(0)
      await page.getByRole('button', { name: 'One colour in place of the gradient' }).click()
      await expect(page.getByText('No one colour of text')).toHaveCount(0)
      await page.getByRole('button', { name: 'Undo' }).click()
      await expect(page.getByText('No one colour of text')).toBeVisible()
    })

    test('a pasted list shows what is unsure, and does not tick it', async ({ page }) => {
      await startEmpty(page, freshName('unsure'))
      await page.getByLabel('Paste an address to add a button').evaluate((line) => {
        const text = new DataTransfer()
        text.setData(
          'text',
          'Kiln (https://kiln.example/dates).\nVAT no. 123456789\nhttps://kiln.example/dates',
        )
        line.dispatchEvent(
          new ClipboardEvent('paste', { clipboardData: text, bubbles: true, cancelable: true }),
        )
      })
      const dialog = page.getByRole('dialog', { name: '3 lines' })
      await expect(dialog).toBeVisible()
      const ticked = await dialog
        .getByRole('checkbox')
        .evaluateAll((all) => all.map((each) => (each as HTMLInputElement).checked))
      expect(ticked).toEqual([true, false, false])
      await expect(dialog.getByText('a number that nobody dials')).toBeVisible()
      await page.keyboard.press('Escape')
      await expect(page.getByLabel('Paste an address to add a button')).toHaveValue(/^Kiln \(https:.*dates$/)
    })

    test('the names of the lanes stay in sight, and nothing stands over the edge', async ({ page }) => {
      await signIn(page, ILSE)
      await expect(page.locator('.figures .total').first()).not.toHaveText('0')
      const over = await page
        .locator('.figures .rate')
        .evaluateAll((all) => all.filter((rate) => rate.scrollWidth > rate.clientWidth).length)
      expect(over).toBe(0)
      await page.locator('.rows li').last().scrollIntoViewIfNeeded()
      await page.mouse.wheel(0, 2_000)
      await expect(page.locator('.pinned').getByText(size.phone ? 'Clicks' : 'Photoloft')).toBeInViewport()
    })
  })

for (const format of ['A4', 'Letter'])
  for (const many of [false, true])
    test(`${many ? 'eight cards are' : 'one code is'} printed alone, on one sheet of ${format}`, async ({
      page,
    }) => {
      await signIn(page, ILSE)
      await page.getByRole('link', { name: 'Sources' }).click()
      await page.getByRole('link', { name: 'Code and steps for Printed card' }).click()
      await expect(page.getByRole('img', { name: /^QR code/ }).first()).toBeVisible()
      if (many) await page.getByRole('radio', { name: 'Eight cards' }).check()
      const sheet = await page.pdf({ format, printBackground: true })
      expect(sheet.toString('latin1').match(/\/Type\s*\/Page\b/g)).toHaveLength(1)
      await page.emulateMedia({ media: 'print' })
      await expect(page.getByRole('navigation', { name: 'Views' })).toBeHidden()
      await expect(page.getByRole('button', { name: 'Publish', exact: true })).toBeHidden()
    })

test('readings say which of their days are being counted anew, until they are', async ({ page }) => {
  await signIn(page, ILSE)
  await page.route('**/readings?*', async (route) => {
    const answer = await route.fetch({ headers: { ...route.request().headers(), 'if-none-match': '' } })
    const { etag: _, ...headers } = answer.headers()
    await route.fulfill({ json: { ...(await answer.json()), recounting: days }, headers })
  })
  let days = 1
  await page.getByRole('link', { name: 'Readings' }).click()
  const notice = page.getByText('being counted anew')
  await expect(notice).toHaveText(/^1 day of this time is being counted anew\. .* those of before\.$/)
  days = 2
  await expect(notice).toHaveText(/^2 days of this time are being counted anew\./)
  await page.unroute('**/readings?*')
  await expect(notice).toHaveCount(0)
})
