import { expect, test, type Page } from '@playwright/test'
import { picture } from './support/files'
import { freshName, startEmpty } from './support/people'

const drawer = (page: Page) => page.getByRole('complementary')
const dialog = (page: Page) => page.getByRole('dialog', { name: 'Cut the picture' })

/** The colour of a kept picture near one of its corners, as #rrggbb, rounded to what JPEG leaves alone. */
function corner(page: Page, alt: string, right: boolean, bottom: boolean) {
  return page.getByAltText(alt).evaluate(
    async (shown: HTMLImageElement, at) => {
      const whole = new Image()
      whole.src = shown.src
      await whole.decode()
      const canvas = document.createElement('canvas')
      canvas.width = canvas.height = 100
      const paint = canvas.getContext('2d')!
      paint.drawImage(whole, 0, 0, 100, 100)
      const [r, g, b] = paint.getImageData(at.right ? 85 : 15, at.bottom ? 85 : 15, 1, 1).data
      return [r!, g!, b!].map((value) => Math.round(value / 16))
    },
    { right, bottom },
  )
}

const near = (code: number) =>
  [code >> 16, (code >> 8) & 255, code & 255].map((value) => Math.round(value / 16))
const BROWN = near(0xb06a2c)
const GREEN = near(0x2f5d62)
const SAND = near(0xe8dcc6)

async function choose(page: Page) {
  await page.getByRole('button', { name: 'Edit name, line and picture' }).click()
  await drawer(page).getByRole('radio', { name: 'Square' }).check()
  await drawer(page)
    .getByLabel('Picture: file')
    .setInputFiles(picture('quarters.png', 600, 600))
  await expect(dialog(page).locator('.vue-advanced-cropper__image')).toBeVisible()
}

test('a picture is turned and flipped as the cutting dialog shows it, and can be cut again', async ({
  page,
}) => {
  await startEmpty(page, freshName('turned'))
  await choose(page)
  await dialog(page).getByRole('button', { name: 'Use this cut' }).click()
  const alt = 'Picture at the top of the page'
  await expect.poll(() => corner(page, alt, false, false)).toEqual(BROWN)

  await drawer(page).getByRole('button', { name: 'Cut again' }).first().click()
  await expect(dialog(page).locator('.vue-advanced-cropper__image')).toBeVisible()
  await dialog(page).getByRole('button', { name: 'Turn' }).click()
  await dialog(page).getByRole('button', { name: 'Use this cut' }).click()
  await expect(dialog(page)).toHaveCount(0)
  await expect
    .poll(() => corner(page, alt, false, false), 'turned clockwise, what was below is on the left')
    .toEqual(SAND)
  await expect.poll(() => corner(page, alt, true, false)).toEqual(BROWN)

  await drawer(page).getByRole('button', { name: 'Cut again' }).first().click()
  await expect(dialog(page).locator('.vue-advanced-cropper__image')).toBeVisible()
  await dialog(page).getByRole('button', { name: 'Turn' }).click()
  await dialog(page).getByRole('button', { name: 'Turn' }).click()
  await dialog(page).getByRole('button', { name: 'Turn' }).click()
  await dialog(page).getByRole('button', { name: 'Change left and right over' }).click()
  await dialog(page).getByRole('button', { name: 'Use this cut' }).click()
  await expect(dialog(page)).toHaveCount(0)
  await expect
    .poll(() => corner(page, alt, false, false), 'upright again, with left and right changed over')
    .toEqual(GREEN)
  await expect.poll(() => corner(page, alt, true, false)).toEqual(BROWN)
})

test('the colours of a picture are offered where a colour is asked for', async ({ page }) => {
  await startEmpty(page, freshName('palette'))
  await choose(page)
  await dialog(page).getByRole('button', { name: 'Use this cut' }).click()
  await expect(page.getByAltText('Picture at the top of the page')).toBeVisible()
  await page.keyboard.press('Escape')
  await page.getByRole('link', { name: 'Look', exact: true }).click()
  const offered = page.getByRole('button', { name: /^Quieter text: #.*out of your pictures$/ })
  await expect(offered).toHaveCount(4)
  const name = await offered.nth(1).getAttribute('aria-label')
  await offered.nth(1).click()
  await expect(page.getByLabel('Quieter text', { exact: true })).toHaveValue(/#[0-9a-f]{6}/.exec(name!)![0])
})
