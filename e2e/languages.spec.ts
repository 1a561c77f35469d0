import { expect, test } from '@playwright/test'
import { expectCleanAtBothSizes } from './support/axe'
import { settled } from './support/lines'
import { freshName, paste, publish, startEmpty } from './support/people'
import { PUBLIC } from './support/places'
import { PHONE } from './support/sizes'

test('a page is offered in another language, and read in the one of the browser or the one that was chosen', async ({
  page,
  browser,
}) => {
  const name = freshName('languages')
  await startEmpty(page, name)
  await paste(page, 'https://quarrow.example/kiln-openings', 'Kiln opening dates')
  await settled(page)
  const arrange = page.url()
  await page.goto(arrange.replace(/arrange$/, 'settings'))
  const part = page.getByRole('region', { name: 'Other languages' })
  for (const language of ['German', 'Hebrew']) {
    await part.getByRole('combobox', { name: 'Add a language' }).click()
    await page.getByRole('option', { name: language, exact: true }).click()
    await expect(part.getByRole('button', { name: `Translate into ${language}` })).toBeVisible()
  }
  await part.getByRole('button', { name: 'Translate into German' }).click()
  const row = part.getByRole('listitem').filter({ hasText: 'Kiln opening dates' }).last()
  await row.getByLabel('German').fill('Wann der Ofen aufgeht')
  await row.getByLabel('German').blur()
  await expect(part.getByText(/^1 of \d+ texts$/)).toBeVisible()
  await expectCleanAtBothSizes(page, '.view')
  await settled(page)
  await page.goto(arrange)
  expect(await publish(page)).toContain('The page goes live for the first time, with 1 block.')

  const reader = await browser.newContext({ locale: 'de-AT', ...PHONE })
  const visitor = await reader.newPage()
  await visitor.goto(`${PUBLIC}/${name}`)
  await expect(visitor.locator('html')).toHaveAttribute('lang', 'de')
  const button = visitor.getByRole('link', { name: 'Wann der Ofen aufgeht' })
  await expect(button).toBeVisible()
  const languages = visitor.getByRole('navigation', { name: 'Sprachen' })
  await expect(languages).toHaveText('EnglishDeutschעברית')

  await test.step('every version names all others', async () => {
    const named = () =>
      visitor
        .locator('link[rel=alternate]')
        .evaluateAll((links) =>
          links.map((link) => `${link.getAttribute('hreflang')} ${link.getAttribute('href')}`),
        )
    const all = await named()
    expect(all).toHaveLength(4)
    for (const language of ['English', 'עברית']) {
      await visitor.getByRole('link', { name: language }).click()
      expect(await named()).toEqual(all)
    }
    await expect(visitor.locator('html')).toHaveAttribute('dir', 'rtl')
  })
  await test.step('and a press is one of the same button', async () => {
    await visitor.getByRole('link', { name: 'Deutsch' }).click()
    await button.click()
    await expect(visitor.getByRole('heading', { name: 'Kiln opening dates' })).toBeVisible()
  })
  await reader.close()
  await page.getByRole('link', { name: 'Readings' }).first().click()
  await expect(page.getByRole('row', { name: /Kiln opening dates/ }).first()).toContainText('1')
})
