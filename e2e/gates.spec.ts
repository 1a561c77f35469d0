import AxeBuilder from '@axe-core/playwright'
import { expect, test } from '@playwright/test'
import { freshName, paste, phoneVisitor, publish, row, startEmpty } from './support/people'
import { PUBLIC } from './support/places'
import { SIZES } from './support/sizes'

for (const size of SIZES) {
  test.describe(size.name, () => {
    test.use(size.options)

    test('a page says something first, and one of its buttons asks for a passcode', async ({
      page,
      browser,
    }) => {
      const address = freshName('gate')
      await startEmpty(page, address)
      await paste(page, 'Friends https://quarrow.example/stockists', 'Friends')
      await page.getByRole('button', { name: 'The page as a whole' }).click()
      await page.getByRole('radio', { name: 'notice first' }).click()
      await page.getByLabel('What is said').fill('Glazes are not food.')
      await page.keyboard.press('Escape')
      await row(page, 'Friends').locator('.piece').click()
      await page.getByText('Before it leads on').click()
      await page.getByRole('radio', { name: 'passcode' }).click()
      await expect(page.getByText('Nobody gets through until a passcode is set.')).toBeVisible()
      await page.getByLabel('Passcode', { exact: true }).fill('celadon')
      await page.getByRole('button', { name: 'Set passcode' }).click()
      await expect(page.getByText('Nobody gets through until a passcode is set.')).toHaveCount(0)
      await page.keyboard.press('Escape')
      await expect(row(page, 'Friends').getByText('passcode')).toBeVisible()
      await publish(page)

      const visitor = await phoneVisitor(browser)
      await visitor.goto(`${PUBLIC}/${address}`)
      await expect(visitor.getByText('Glazes are not food.')).toBeVisible()
      expect(await visitor.locator('script:not([type="application/ld+json"])').count()).toBe(0)
      const found = await new AxeBuilder({ page: visitor }).setLegacyMode().analyze()
      expect(found.violations).toEqual([])
      await visitor.getByRole('button', { name: 'Go on' }).press('Enter')
      await visitor.getByRole('link', { name: 'Friends' }).click()
      await visitor.getByLabel('Passcode').fill('tenmoku')
      await visitor.keyboard.press('Enter')
      await expect(visitor.getByRole('alert')).toHaveText('That is not the passcode.')
      await visitor.getByLabel('Passcode').fill('celadon')
      await visitor.getByRole('button', { name: 'Open' }).click()
      await expect(visitor.getByRole('heading', { name: 'Where to find our pots: a map' })).toBeVisible()
      expect(await visitor.context().cookies()).toEqual([])
      await visitor.context().close()
    })
  })
}
