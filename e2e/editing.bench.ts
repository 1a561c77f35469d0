import { expect, test } from '@playwright/test'
import { ILSE, signIn } from './support/people'

const median = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? 0
const percentile = (values: number[], share: number) =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length * share)] ?? 0

/**
 * From a keystroke in the editor to the strip showing it, drawn by the server:
 * beside it, in the same run, the bare time of the same request.
 */
test('a keystroke in the editor until the strip shows it', async ({ page }) => {
  await signIn(page, ILSE)
  await page.locator('.rows > li .piece').first().click()
  const title = page.getByRole('complementary').getByLabel('Title', { exact: true })
  await title.fill('')
  await page.evaluate(() => {
    const field = document.activeElement as HTMLInputElement
    const fragment = document.querySelector('.rows > li .fragment')!.shadowRoot!
    const pending = new Map<string, number>()
    const took: number[] = []
    Object.assign(window, { took })
    field.addEventListener('input', () => pending.set(field.value.trim(), performance.now()), true)
    new MutationObserver(() => {
      const shown = fragment.querySelector('.title')?.textContent ?? ''
      const since = pending.get(shown)
      if (since === undefined) return
      pending.delete(shown)
      took.push(performance.now() - since)
    }).observe(fragment, { childList: true, subtree: true })
  })
  const words = 'Kiln opening dates, next on the twelfth of December from ten'
  await title.pressSequentially(words, { delay: 120 }) // as fast as people type
  await expect(page.locator('.rows > li .fragment').first()).toContainText(words)
  const took = await page.evaluate(() => (window as unknown as { took: number[] }).took)

  const id = /pages\/([^/]+)\//.exec(page.url())![1]
  const bare = await page.evaluate(async (path) => {
    const state = await (await fetch(path)).json()
    let { revision } = state
    const times: number[] = []
    for (let i = 0; i < 40; i++) {
      state.document.blocks[0].button.title += 'x'
      const begun = performance.now()
      const answer = await fetch(`${path}/draft`, {
        method: 'PUT',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ revision, document: state.document }),
      })
      ;({ revision } = await answer.json())
      times.push(performance.now() - begun)
    }
    return times
  }, `/api/pages/${id}`)
  console.log(
    [
      `keystrokes shown          ${took.length} of ${words.replaceAll(' ', '').length} that end a new word or letter`,
      `keystroke to strip        median ${median(took).toFixed(0)} ms, 95th percentile ${percentile(took, 0.95).toFixed(0)} ms`,
      `the request alone         median ${median(bare).toFixed(0)} ms`,
      `ratio                     ${(median(took) / median(bare)).toFixed(2)}`,
    ].join('\n'),
  )
})
