import AxeBuilder from '@axe-core/playwright'
import { expect, type Page } from '@playwright/test'

/** Nothing that axe can find is wrong with a part of the page. */
export async function expectClean(page: Page, part: string) {
  const found = await new AxeBuilder({ page }).include(part).setLegacyMode().analyze()
  expect(found.violations.map(({ id, nodes }) => [id, nodes[0]?.html])).toEqual([])
}

/** The same in light and in the dark. */
export async function expectCleanInBoth(page: Page, part: string) {
  for (const colorScheme of ['dark', 'light'] as const) {
    await page.emulateMedia({ colorScheme })
    await expectClean(page, part)
  }
}
