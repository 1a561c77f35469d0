import { expect, test, type Browser } from '@playwright/test'
import { expectClean } from './support/axe'
import { settled } from './support/lines'
import { freshName, paste, publish, startEmpty, titles } from './support/people'
import { PUBLIC } from './support/places'

const [AS_IT_IS, OTHER] = ['Where to find our pots: a map', 'The map of our shops']

/** Visitors of whom each sees one title; of those who see the other one, nearly all press it. */
async function visitors(browser: Browser, address: string, many: number) {
  const seen = { [AS_IT_IS]: 0, [OTHER]: 0 }
  for (let i = 0; i < many; i++) {
    const visitor = await browser.newContext({ userAgent: `Mozilla/5.0 (Linux; Android 12; K${i}) Mobile` })
    const html = await (await visitor.request.get(`${PUBLIC}/${address}`)).text()
    const shown = [AS_IT_IS, OTHER].filter((title) => html.includes(`${title}<`))
    expect(shown).toHaveLength(1)
    const often = shown[0] === OTHER ? 10 : 3
    if (seen[shown[0]!]!++ % 10 < often) {
      const link = /href="(\/[^"]*\/-\/\d+\/[a-z0-9]+)"/.exec(html)![1]!
      expect((await visitor.request.get(PUBLIC + link, { maxRedirects: 0 })).status()).toBe(302)
    }
    await visitor.close()
  }
  return seen
}

test('a trial is planned, runs, says which is pressed more, and that one is put in place', async ({
  page,
  browser,
}) => {
  test.slow()
  const address = freshName('trial')
  await startEmpty(page, address)
  await paste(page, 'https://quarrow.example/stockists', AS_IT_IS)
  await settled(page)
  await publish(page)
  await page.getByRole('link', { name: 'Readings' }).click()
  await page.getByRole('link', { name: 'Try a title, a picture or a place' }).click()
  await page.getByLabel('The other title').fill(OTHER)
  await expect(page.getByText('too few visits will come to find anything')).toBeVisible()
  await expectClean(page, '.view')
  await page.getByRole('button', { name: 'Begin the trial' }).click()
  await expect(page.getByText('Not clear yet. You may look at any day')).toBeVisible()

  const seen = await visitors(browser, address, 140)
  const trial = page.getByRole('article')
  await expect(trial.getByText(`“${OTHER}” is pressed more so far: by`)).toBeVisible()
  for (const title of [AS_IT_IS, OTHER]) {
    const line = trial.getByRole('row', { name: title === OTHER ? OTHER : 'As it is' })
    await expect(line.getByRole('cell').first()).toHaveText(String(seen[title]))
  }
  await expectClean(page, '.view')
  await trial.getByRole('button', { name: `Put in place: “${OTHER}”` }).click()
  const asked = page.getByRole('alertdialog', { name: 'Use this version for all visitors?' })
  await asked.getByRole('button', { name: 'Put in place' }).click()
  await expect(trial.getByText(`“${OTHER}” was put in place`)).toBeVisible()
  await page.getByRole('alert').getByRole('button', { name: 'Undo' }).click()
  await expect(trial.getByText(`“${OTHER}” is pressed more so far: by`), 'it goes on as before').toBeVisible()
  await trial.getByRole('button', { name: `Put in place: “${OTHER}”` }).click()
  await asked.getByRole('button', { name: 'Put in place' }).click()
  await expect(trial.getByText(`“${OTHER}” was put in place`)).toBeVisible()
  await page.getByRole('link', { name: 'Arrange', exact: true }).click()
  await expect.poll(() => titles(page)).toEqual([OTHER])
  await expect(page.getByText('nothing waiting')).toBeVisible()
})
