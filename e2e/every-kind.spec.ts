import { expect, test, type Page } from '@playwright/test'
import { picture } from './support/files'
import { freshName, publish, row, startEmpty } from './support/people'
import { PUBLIC } from './support/places'

const drawer = (page: Page) => page.getByRole('complementary')
const field = (page: Page, label: string) => drawer(page).getByLabel(label, { exact: true })

/** Fills a field and leaves it, as somebody does who goes on to the next. */
async function fill(page: Page, label: string, text: string) {
  await field(page, label).fill(text)
  await field(page, label).blur()
}

const choose = (page: Page, group: string, option: string) =>
  drawer(page).getByRole('group', { name: group }).getByRole('radio', { name: option, exact: true }).check()

async function add(page: Page, kind: string) {
  await page.getByRole('button', { name: 'Add a block' }).click()
  await page.getByRole('menuitem', { name: kind, exact: true }).click()
  await expect(drawer(page).getByRole('heading', { level: 2 })).toContainText(kind)
  const over = await drawer(page)
    .locator('input, textarea, button')
    .evaluateAll((all) =>
      all
        .filter((each) => {
          const [box, within] = [each, each.closest('aside')!].map((one) => one.getBoundingClientRect())
          return box!.width > 0 && (box!.right > within!.right || box!.left < within!.left)
        })
        .map((each) => each.outerHTML.slice(0, 120)),
    )
  expect(over, `what sticks out of the editor of ${kind}`).toEqual([])
}

/** Chooses a picture file and takes the cut that is offered. */
async function cut(page: Page, label: string) {
  await drawer(page)
    .getByLabel(`${label}: file`)
    .setInputFiles(picture('pot.png', 640, 480))
  const dialog = page.getByRole('dialog', { name: 'Cut the picture' })
  await expect(dialog.locator('.vue-advanced-cropper__image')).toBeVisible()
  await dialog.getByRole('button', { name: 'Turn' }).click()
  await dialog.getByRole('button', { name: 'Use this cut' }).click()
  await expect(dialog).toHaveCount(0)
}

async function saved(page: Page) {
  await expect(page.locator('.standing')).not.toContainText('saving')
}

/** Every kind of block, made in its editor; what is returned is what its fields must hold afterwards. */
const kinds: Record<string, (page: Page) => Promise<Record<string, string>>> = {
  Button: async (page) => {
    await fill(page, 'Title', 'Kiln dates')
    await fill(page, 'Second line', 'Four times a year')
    await fill(page, 'Leads to', 'quarrow.example/kiln-openings')
    await fill(page, 'Price or label', 'free')
    await choose(page, 'Before the title', 'Picture')
    await cut(page, 'Picture')
    await choose(page, 'How it is shown', 'Wide, above it')
    await choose(page, 'Movement, now and then', 'Nudge')
    await drawer(page).getByLabel('Paid for (sponsored)').check()
    await drawer(page).getByRole('button', { name: 'Give it its own' }).click()
    await choose(page, 'Corners', 'Pill')
    await fill(page, 'Text on it', '#7a1f1f')
    return {
      Title: 'Kiln dates',
      'Second line': 'Four times a year',
      'Leads to': 'https://quarrow.example/kiln-openings',
      'Price or label': 'free',
      'Text on it': '#7a1f1f',
    }
  },
  Contact: async (page) => {
    await fill(page, 'Title', 'Ask for a bowl')
    await fill(page, 'E-mail address', 'ilse@quarrow.example')
    await fill(page, 'Subject', 'A bowl & a lid')
    await fill(page, 'Text filled in', 'Dear Ilse,\nplease')
    return { Title: 'Ask for a bowl', 'E-mail address': 'ilse@quarrow.example', Subject: 'A bowl & a lid' }
  },
  Heading: async (page) => {
    await fill(page, 'Heading', 'To see')
    await choose(page, 'Size', 'Large')
    return { Heading: 'To see' }
  },
  Text: async (page) => {
    const text = drawer(page).getByRole('textbox', { name: 'Text' })
    await text.fill('Fired for forty hours.')
    await text.press('Control+a')
    await drawer(page).getByRole('button', { name: 'Bold' }).click()
    await drawer(page).getByRole('button', { name: 'Link', exact: true }).click()
    await drawer(page).getByLabel('The marked words lead to').fill('quarrow.example/film')
    await drawer(page).getByRole('button', { name: 'Link', exact: true }).last().click()
    await choose(page, 'Stands', 'In the middle')
    return {}
  },
  Pictures: async (page) => {
    await drawer(page)
      .getByLabel('Picture files')
      .setInputFiles([picture('a.png', 300, 200), picture('b.png', 200, 300), picture('c.png', 300, 300)])
    await expect(drawer(page).getByLabel('What is on it')).toHaveCount(3)
    await drawer(page).getByLabel('What is on it').first().fill('A pot on a table')
    await drawer(page).getByLabel('Leads to').first().fill('shop.quarrow.example/bowl')
    await drawer(page).getByLabel('Leads to').first().blur()
    await drawer(page).getByLabel('The last one takes the whole width').check()
    return {}
  },
  File: async (page) => {
    await fill(page, 'Title', 'Glaze recipes')
    await drawer(page)
      .getByLabel('File to hand out')
      .setInputFiles({
        name: 'glaze recipes.pdf',
        mimeType: 'application/pdf',
        buffer: Buffer.from('%PDF-1.4 glaze'),
      })
    await expect(drawer(page).getByText('glaze recipes.pdf')).toBeVisible()
    return { Title: 'Glaze recipes' }
  },
  Offer: async (page) => {
    await fill(page, 'Name', 'Tea bowl')
    await fill(page, 'Text', 'Ash glaze')
    await fill(page, 'Price', '24,50')
    await fill(page, 'Leads to', 'shop.quarrow.example/tea')
    await cut(page, 'Picture')
    await choose(page, 'How it is shown', 'Two side by side')
    return { Name: 'Tea bowl', Text: 'Ash glaze', Price: '24.50', Currency: 'EUR' }
  },
  'Sign-up': async (page) => {
    await fill(page, 'Title', 'The studio letter')
    await fill(page, 'What they get', 'Four times a year')
    await fill(page, 'What they agree to', 'Quarrow Clay may write to me.')
    return { Title: 'The studio letter', 'What they agree to': 'Quarrow Clay may write to me.' }
  },
  'Tip or price': async (page) => {
    await fill(page, 'Title', 'A tip for the kiln')
    await fill(page, 'What it is for', 'Each pays for glaze')
    await fill(page, 'Amounts', '12.50 3')
    await fill(page, 'Currency', 'chf')
    await fill(page, 'On the button', 'Tip')
    return { Title: 'A tip for the kiln', Amounts: '3  12.50', Currency: 'CHF', 'On the button': 'Tip' }
  },
  'Times to ask for': async (page) => {
    await fill(page, 'Title', 'A commission talk')
    await fill(page, 'What it is for', 'A piece for your table')
    await fill(page, 'Minutes', '45')
    await fill(page, 'Price', '25')
    await fill(page, 'On the button', 'Choose a time')
    return {
      Title: 'A commission talk',
      Minutes: '45',
      Price: '25',
      Currency: 'EUR',
      'On the button': 'Choose a time',
    }
  },
  Place: async (page) => {
    await fill(page, 'Name', 'The studio')
    await fill(page, 'Postal address', 'Mill Lane 4\nQuarrow')
    await fill(page, 'Where it is on the map', 'Mill Lane')
    await expect(drawer(page).getByText('There are no coordinates in this.')).toBeVisible()
    await fill(page, 'Where it is on the map', `51°30′N 0°7′12″W`)
    await expect(field(page, 'Where it is on the map')).toHaveValue('51.5, -0.12')
    await choose(page, 'Picture of the map', 'The street')
    await expect(
      page.locator('.fragment').getByRole('img', { name: 'Map', includeHidden: true }),
    ).toBeVisible()
    await drawer(page).getByRole('button', { name: 'Every week' }).click()
    return { Name: 'The studio', 'Where it is on the map': '51.5, -0.12' }
  },
  Dates: async (page) => {
    await fill(page, 'Title', 'Kiln openings')
    await fill(page, 'What it is', 'Winter opening')
    await field(page, 'Begins').fill('2099-12-04T18:00')
    await field(page, 'Ends').fill('2099-12-04T21:00')
    await field(page, 'Ends').blur()
    await fill(page, 'Place', 'The old mill')
    await fill(page, 'Where tickets are', 'seats.quarrow.example/winter')
    return {
      'What it is': 'Winter opening',
      Begins: '2099-12-04T18:00',
      Ends: '2099-12-04T21:00',
      'Where tickets are': 'https://seats.quarrow.example/winter',
    }
  },
  Countdown: async (page) => {
    await fill(page, 'What begins then', 'The kiln opens in')
    await field(page, 'When').fill('2099-12-04T18:00')
    await field(page, 'When').blur()
    await fill(page, 'Said from then on', 'It is open')
    return { 'What begins then': 'The kiln opens in', When: '2099-12-04T18:00' }
  },
  Questions: async (page) => {
    await fill(page, 'Title', 'Asked often')
    await fill(page, 'Question 1', 'Do you ship?')
    await fill(page, 'Answer', 'Yes, in straw.')
    return { Title: 'Asked often', 'Question 1': 'Do you ship?', Answer: 'Yes, in straw.' }
  },
  'Film or sound': async (page) => {
    await fill(page, 'Page it is on', 'wavecastle.example/watch/forty-hours')
    await drawer(page).getByRole('button', { name: 'Ask for its player' }).click()
    await expect(
      drawer(page).getByText('A press loads the player from player.wavecastle.example.'),
    ).toBeVisible()
    await expect(field(page, 'Title')).toHaveValue('Forty hours of fire')
    return { Title: 'Forty hours of fire', 'Who plays it': 'Wavecastle' }
  },
  Feed: async (page) => {
    await fill(page, 'Address of the feed, or of its site', 'notes.quarrow.example')
    await drawer(page).getByRole('button', { name: 'Look for the feed' }).click()
    await expect(field(page, 'Title')).toHaveValue('Quarrow notes')
    await choose(page, 'How it is shown', 'Cards')
    await expect(page.locator('.fragment .feed .card').first()).toBeAttached()
    return { Title: 'Quarrow notes' }
  },
  'Discount code': async (page) => {
    await fill(page, 'Title', 'Ten percent off seconds')
    await fill(page, 'The code', 'KILN10')
    await fill(page, 'Where it is good', 'shop.quarrow.example/seconds')
    await fill(page, 'On the button', 'To the shop')
    return { 'The code': 'KILN10', 'Where it is good': 'https://shop.quarrow.example/seconds' }
  },
  Quote: async (page) => {
    await fill(page, 'Words', 'The bowl I reach for.')
    await fill(page, 'Who said it', 'Rolf')
    await cut(page, 'Picture')
    return { Words: 'The bowl I reach for.', 'Who said it': 'Rolf' }
  },
  Divider: async (page) => {
    await choose(page, 'Line', 'Wave')
    return {}
  },
  Space: async (page) => {
    await field(page, 'Height').fill('64')
    return { Height: '64' }
  },
}

const KINDS = Object.keys(kinds).length

/** What a block is drawn as, without where it leads and when its pictures are fetched, and how high that makes it. */
const drawn = (element: Element) => {
  const copy = element.cloneNode(true) as Element
  for (const each of [copy, ...Array.from(copy.querySelectorAll('a, img, form, button'))])
    for (const name of ['href', 'loading', 'decoding', 'action', 'method', 'disabled', 'data-told', 'data-frame']) each.removeAttribute(name)
  for (const each of Array.from(copy.querySelectorAll("script"))) each.remove() // dates for search engines
  for (const each of Array.from(copy.querySelectorAll("[role=timer]"))) each.textContent = '' // it ticks
  const { height } = element.getBoundingClientRect()
  const { color, backgroundColor, fontFamily, borderRadius, fontSize } = getComputedStyle(element)
  return { html: copy.outerHTML, height: Math.round(height), color, backgroundColor, fontFamily, borderRadius, fontSize }
} // prettier-ignore

for (const size of [
  { width: 1280, height: 800 },
  { width: 390, height: 844 },
]) {
  test(`a page with every kind of block is the same in the strip, on the page and in the editor, at ${size.width} px`, async ({
    page,
    browser,
  }) => {
    test.slow() // each kind is written, read back and looked at three times
    await page.setViewportSize(size)
    const address = freshName('everything')
    await startEmpty(page, address)
    const values = new Map<string, Record<string, string>>()
    for (const [kind, make] of Object.entries(kinds)) {
      await add(page, kind)
      values.set(kind, await make(page))
      await saved(page)
      await drawer(page).getByRole('button', { name: 'Close the editor' }).click()
    }
    await test.step('profile icons and the end of the page', async () => {
      await page.getByRole('button', { name: 'Edit the profile icons' }).click()
      await drawer(page).getByLabel('Address of a profile').fill('photoloft.example/quarrowclay')
      await drawer(page).getByRole('button', { name: 'Add', exact: true }).click()
      const picker = page.getByRole('dialog', { name: 'Choose an icon' })
      await picker.getByLabel('What it shows, or whose it is').fill('camera')
      await picker.getByRole('button', { name: 'camera', exact: true }).click()
      await expect(picker).toHaveCount(0)
      await drawer(page).getByRole('button', { name: 'Close the editor' }).click()
      await page.getByRole('button', { name: 'Edit the end of the page' }).click()
      await fill(page, 'Text', 'Quarrow Clay, by the river')
      await drawer(page).getByRole('button', { name: 'Close the editor' }).click()
      await saved(page)
    })

    await page.reload()
    await expect(page.locator('.rows > li')).toHaveCount(KINDS)
    await test.step('the editor holds what was written', async () => {
      for (const [at, [kind, held]] of [...values].entries()) {
        await page.locator('.rows > li').nth(at).focus()
        await page.keyboard.press('Enter')
        await expect(drawer(page).getByRole('heading', { level: 2 })).toContainText(
          `${kind} at place ${at + 1}`,
        )
        for (const [label, value] of Object.entries(held))
          await expect(field(page, label), label).toHaveValue(value)
        await drawer(page).getByRole('button', { name: 'Close the editor' }).click()
      }
    })
    expect(await publish(page)).toEqual([`The page goes live for the first time, with ${KINDS} blocks.`])

    const phone = await browser.newContext({ viewport: { width: 360, height: 780 } })
    const visitor = await phone.newPage()
    await visitor.goto(`${PUBLIC}/${address}`)
    await visitor.evaluate(() => document.fonts.ready)
    await test.step('the page is what the strip shows', async () => {
      for (let at = 0; at < KINDS; at++) {
        const inStrip = page.locator('.rows > li').nth(at).locator('.fragment .column > *')
        const onPage = visitor.locator('.blocks > li').nth(at)
        const strip = await inStrip.evaluate(drawn)
        const live = await onPage.locator('> *').evaluate(drawn)
        if (strip.html.startsWith('<div class="strip-half">')) {
          expect(strip.html).toContain(live.html)
          continue
        }
        if (size.width > 720 && !strip.html.includes('role="timer"')) expect(strip).toEqual(live)
        else expect({ ...strip, height: 0 }).toEqual({ ...live, height: 0 })
      }
    })
    await test.step('and leads where the editor says', async () => {
      const answers = async (name: string) => {
        const href = await visitor.getByRole('link', { name }).first().getAttribute('href')
        const answer = await visitor.request.get(PUBLIC + href, { maxRedirects: 0 })
        return { to: answer.headers().location, saves: answer.headers()['content-disposition'] }
      }
      expect((await answers('Ask for a bowl')).to).toBe(
        'mailto:ilse@quarrow.example?subject=A%20bowl%20%26%20a%20lid&body=Dear%20Ilse%2C%0D%0Aplease',
      )
      expect((await answers('A pot on a table')).to).toContain('/web/shop.quarrow.example/bowl')
      expect((await answers('Fired for forty hours.')).to).toContain('/web/quarrow.example/film')
      const file = await visitor.request.get(
        PUBLIC + (await visitor.getByRole('link', { name: 'Glaze recipes' }).getAttribute('href')),
      )
      expect(file.headers()['content-disposition']).toContain('glaze recipes.pdf')
      expect(await file.text()).toBe('%PDF-1.4 glaze')
      await expect(visitor.getByRole('link', { name: 'Tea bowl' })).toContainText('€24.50')
      const way = await visitor.getByRole('link', { name: 'Directions' }).getAttribute('href')
      expect(await (await visitor.request.get(PUBLIC + way)).text()).toContain('href="geo:51.5,-0.12"')
      await expect(visitor.getByRole('img', { name: 'Map' })).toBeVisible()
      await expect(visitor.getByText('Map by the surveyors of tiles.example')).toBeVisible()
      await expect(visitor.getByText(/(Open now, until|Closed now, opens)/)).toBeVisible()
      expect((await answers('Tickets: Winter opening')).to).toContain('/web/seats.quarrow.example/winter')
      expect((await answers('Put into calendar')).saves).toContain('Kiln openings.ics')
      expect((await answers('To the shop')).to).toContain('/web/shop.quarrow.example/seconds')
      await expect(visitor.getByRole('timer')).toContainText(/[\d,]+ days .*minutes?$/)
      await visitor.getByText('Do you ship?').click()
      await expect(visitor.getByText('Yes, in straw.')).toBeVisible()
    })
    await test.step('a code is copied, and that is told', async () => {
      await phone.grantPermissions(['clipboard-read', 'clipboard-write'])
      const told = visitor.waitForRequest((request) => request.url().includes('.copied'))
      await visitor.getByRole('button', { name: 'Copy' }).click()
      await expect(visitor.getByRole('button', { name: 'Copied' })).toBeVisible()
      expect(await visitor.evaluate(() => navigator.clipboard.readText())).toBe('KILN10')
      expect((await told).method()).toBe('POST')
    })
    await phone.close()
  })
}

test('a block is duplicated with all it has, goes to the top, and looks as the page does again', async ({
  page,
}) => {
  await startEmpty(page, freshName('twice'))
  await add(page, 'Heading')
  await fill(page, 'Heading', 'To see')
  await drawer(page).getByRole('button', { name: 'Close the editor' }).click()
  await add(page, 'Button')
  await fill(page, 'Title', 'Dates')
  await drawer(page).getByRole('button', { name: 'Give it its own' }).click()
  await fill(page, 'Text on it', '#7a1f1f')
  await drawer(page).getByRole('button', { name: 'Close the editor' }).click()
  await row(page, 'Dates').focus()
  await page.keyboard.press('d')
  await expect(page.locator('.rows > li')).toHaveCount(3)
  await page.keyboard.press('Alt+Home')
  await expect(page.locator('.rows > li').first()).toHaveAttribute('aria-label', 'Place 1: Dates')
  await expect(page.locator('.rows > li').first()).toBeFocused()
  const ink = (at: number) => page.locator('.rows > li').nth(at).locator('.fragment .button')
  await expect(ink(0)).toHaveCSS('color', 'rgb(122, 31, 31)')
  await page.keyboard.press('Enter')
  await drawer(page).getByRole('button', { name: 'As the page again' }).click()
  await expect(ink(0)).toHaveCSS('color', 'rgb(31, 27, 22)')
  await expect(ink(2)).toHaveCSS('color', 'rgb(122, 31, 31)')
  await drawer(page).getByRole('button', { name: 'Close the editor' }).click()
  await page.keyboard.press('Control+z')
  await expect(ink(0)).toHaveCSS('color', 'rgb(122, 31, 31)')
})
