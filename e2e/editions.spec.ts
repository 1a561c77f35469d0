import { expect, test } from '@playwright/test'
import { settled } from './support/lines'
import { freshName, paste, publish, row, startEmpty, titles } from './support/people'

test('an old edition stands beside what is there now, is put back, and goes live as a new one', async ({
  page,
}) => {
  await startEmpty(page, freshName('editions'))
  await paste(page, 'https://quarrow.example/stockists', 'Where to find our pots: a map')
  await publish(page)
  await paste(page, 'https://shop.quarrow.example/seconds', 'Seconds sale')
  await publish(page)
  await row(page, 'Where to find').focus()
  await page.keyboard.press('h')
  await settled(page)

  await page.getByRole('link', { name: /^live, edition 2/ }).click()
  const list = page.getByRole('list', { name: 'Editions' })
  await expect(list.getByRole('button')).toHaveText([/^Edition 2live/, /^Edition 1/])
  await expect(list).toContainText('“Seconds sale” is added at place 2.')
  const beside = page.getByRole('region', { name: 'Edition 2' })
  await expect(beside).toContainText('“Where to find our pots: a map” is hidden')
  await list.getByRole('button', { name: /^Edition 1/ }).click()
  const first = page.getByRole('region', { name: 'Edition 1' })
  await first.getByRole('combobox', { name: 'What stands beside it' }).click()
  await page.getByRole('option', { name: 'Edition 2' }).click()
  await expect(first).toContainText('“Seconds sale” is added at place 2.')
  await expect(first).not.toContainText('is hidden')

  await page.getByRole('button', { name: 'Put edition 1 back' }).click()
  await expect(row(page, 'Seconds sale')).toHaveCount(0)
  expect(await titles(page)).toEqual(['Where to find our pots: a map'])
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(row(page, 'Seconds sale')).toBeVisible()
  await page.getByRole('button', { name: 'Redo' }).click()
  await expect(row(page, 'Seconds sale')).toHaveCount(0)
  await settled(page)
  expect((await publish(page)).join(' ')).toContain('“Seconds sale” is deleted')
  await expect(page.getByRole('link', { name: /^live, edition 3/ })).toBeVisible()
})
