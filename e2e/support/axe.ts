import AxeBuilder from '@axe-core/playwright'
import { expect, type Page } from '@playwright/test'
import { SIZES } from './sizes'

/** In the dark the same stands there in other colours. */
export const DARK_RULES = ['color-contrast']

/** On a phone the same stands elsewhere, and some of it only there: it has to have a name, and be large enough to press. */
export const PHONE_RULES = ['target-size', 'button-name', 'link-name', 'label', 'aria-hidden-focus']

/** Nothing that axe can find is wrong with a part of the page; of some rules only, where they are named. */
export async function expectClean(page: Page, part: string, rules?: string[]) {
  const axe = new AxeBuilder({ page }).include(part).setLegacyMode()
  const found = await (rules ? axe.withRules(rules) : axe).analyze()
  expect(found.violations.map(({ id, nodes }) => [id, nodes[0]?.html])).toEqual([])
}

/** The same in light and in the dark. */
export async function expectCleanInBoth(page: Page, part: string) {
  await page.emulateMedia({ colorScheme: 'dark' })
  await expectClean(page, part, DARK_RULES)
  await page.emulateMedia({ colorScheme: 'light' })
  await expectClean(page, part)
}

/** Nothing goes beyond the right edge of the screen. */
export async function expectNoSideways(page: Page, where: string) {
  const over = await page.evaluate(
    () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
  )
  expect(over, `${where} is wider than the screen`).toBeLessThanOrEqual(0)
}

/** The same screen fits onto a phone, and what is pressed there is large enough. */
async function expectFitsPhone(page: Page, part: string) {
  const [wide, phone] = SIZES.map(({ options }) => options.viewport)
  await page.setViewportSize(phone!)
  await expectNoSideways(page, part)
  await expectClean(page, part, PHONE_RULES)
  await page.setViewportSize(wide!)
}

/** Nothing is wrong with a part of the page, and it fits onto a phone. */
export async function expectCleanAtBothSizes(page: Page, part: string) {
  await expectClean(page, part)
  await expectFitsPhone(page, part)
}

/** The same, and in the dark. */
export async function expectCleanEverywhere(page: Page, part: string) {
  await expectCleanInBoth(page, part)
  await expectFitsPhone(page, part)
}
