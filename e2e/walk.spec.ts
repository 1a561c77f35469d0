import { expect, test, type Locator, type Page, type Route } from '@playwright/test'
import type { PageState } from './support/api'
import { picture } from './support/files'
import { spoil } from './support/lines'
import { newRow, PageModel, sightOf, type Sight } from './support/pageModel'
import { addPage, freshName, startEmpty } from './support/people'
import { randomFrom, type Random } from './support/random'

const SEEDS = (process.env.WALK_SEEDS ?? '1,2,3').split(',').map(Number)
const STEPS = Number(process.env.WALK_STEPS ?? 100)
/** How often all is waited for and compared, in steps. */
const LOOK_EVERY = 100

/** What is done, and up to which of a thousand: adding is the first twenty-five. */
const STEPS_OF = [
  ['add', 25], ['type', 200], ['rename', 330], ['name', 400], ['move', 530], ['hide', 650], ['duplicate', 710],
  ['remove', 760], ['undo', 880], ['redo', 965], ['cut', 968], ['look', 974], ['otherPage', 984], ['reload', 1000],
] as const // prettier-ignore

/** Somebody who does anything to two pages, in any order, on a line that does as it likes. */
class Walker {
  /** The page that is open, and what each should look like. */
  open = ''
  readonly models = new Map<string, PageModel>()
  saves = 0
  failures = 0
  reloads = 0
  /** What was done, step by step. */
  readonly did: string[] = []
  private readonly sent: { to: string; sight: Sight }[] = []
  private words = 0
  private lastTyped = ''

  constructor(
    readonly page: Page,
    readonly random: Random,
    readonly line: Random,
  ) {}

  get model() {
    return this.models.get(this.open)!
  }

  spoilLine = () =>
    spoil(this.page, this.line, { saved: (route) => this.note(route), failed: () => this.failures++ })

  private note(route: Route) {
    this.saves++
    const { document } = route.request().postDataJSON() as Pick<PageState, 'document'>
    this.sent.push({ to: route.request().url().split('/').at(-2)!, sight: sightOf(document) })
  }

  /** What was saved has to be a state that the page really went through. */
  check() {
    for (const { to, sight } of this.sent.splice(0))
      expect(
        this.models.get(to)!.mayBe(sight),
        `saved after ${this.did.slice(-9).join(', ')}: ${JSON.stringify(sight)}, while it is ${JSON.stringify(this.models.get(to)!.now)}`,
      ).toBe(true)
  }

  word = () => `word ${++this.words}`
  rows = () => this.page.locator('.rows > li')
  someRow = () => this.random.below(this.model.now.rows.length)

  /** Presses a button, now and then twice, as on a line that does not answer. */
  async press(button: Locator) {
    if (this.random.chance(0.5)) await button.dblclick()
    else await button.click()
  }

  /** Presses keys on a row. */
  async key(at: number, ...keys: string[]) {
    await this.rows().evaluateAll((all, nth) => (all[nth] as HTMLElement).focus(), at)
    for (const key of keys) await this.page.keyboard.press(key)
  }

  /** Types over what stands in the field that has the focus. */
  async over(word: string) {
    await this.page.keyboard.press('Control+a')
    await this.page.keyboard.insertText(word)
  }

  async add() {
    if (this.model.now.rows.length >= 12) return this.remove()
    await this.page.getByRole('button', { name: 'Add a block' }).click()
    await this.press(this.page.getByRole('menuitem', { name: 'Heading' }))
    const key = await this.page
      .locator('.rows > li.open')
      .evaluate((row) => Array.from(row.parentElement!.children).indexOf(row))
    this.model.change(({ rows }) => rows.splice(key, 0, newRow()))
    await this.page.keyboard.press('Escape')
  }

  async type() {
    const at = this.someRow()
    const key = await this.rows().nth(at).getAttribute('data-key')
    if (this.lastTyped === key) return
    this.lastTyped = key!
    await this.key(at, 'Enter')
    const word = this.word()
    this.model.change(({ rows }) => (rows[at]!.title = word))
    await this.over(word)
    for (const letter of ['!', '?'].slice(0, this.random.below(3))) {
      this.model.goOn(({ rows }) => (rows[at]!.title += letter))
      await this.page.keyboard.press(letter)
    }
    await this.page.keyboard.press('Escape')
  }

  async rename() {
    const at = this.someRow()
    const word = this.word()
    this.model.change(({ rows }) => (rows[at]!.title = word))
    await this.key(at, 'F2')
    await this.over(word)
    await this.page.keyboard.press('Enter')
  }

  async name() {
    if (this.lastTyped === 'name') return
    this.lastTyped = 'name'
    const word = this.word()
    this.model.change((next) => (next.name = word))
    await this.page.getByRole('button', { name: 'Edit name, line and picture' }).press('Enter')
    await this.over(word)
    await this.page.keyboard.press('Escape')
  }

  async move() {
    const at = this.someRow()
    const by = this.random.pick([-1, 1])
    if (!this.model.now.rows[at + by]) return
    this.model.change(({ rows }) => rows.splice(at + by, 0, ...rows.splice(at, 1)))
    await this.key(at, by < 0 ? 'Alt+ArrowUp' : 'Alt+ArrowDown')
  }

  async hide() {
    const at = this.someRow()
    this.model.change(({ rows }) => (rows[at]!.shown = !rows[at]!.shown))
    await this.key(at, 'h')
  }

  async duplicate() {
    if (this.model.now.rows.length >= 12) return this.remove()
    const at = this.someRow()
    this.model.change(({ rows }) => rows.splice(at + 1, 0, newRow(rows[at]!.title, rows[at]!.shown)))
    await this.key(at, 'd')
  }

  async remove() {
    if (this.model.now.rows.length < 2) return
    const at = this.someRow()
    this.model.change(({ rows }) => rows.splice(at, 1))
    await this.key(at, 'Delete')
  }

  async undo() {
    if (!this.model.canUndo) return this.hide()
    this.model.undo()
    await this.key(0, 'Control+z')
    await this.stepped()
  }

  async redo() {
    if (!this.model.canRedo) return this.hide()
    this.model.redo()
    await this.key(0, 'Control+Shift+z')
    await this.stepped()
  }

  /** Waits for a step that is known to the server alone. */
  private stepped = () => expect(this.page.locator('.history[aria-busy=true]')).toHaveCount(0)

  async cut() {
    if (!this.model.now.picture) return
    await this.page.getByRole('button', { name: 'Edit name, line and picture' }).click()
    await this.page.getByRole('button', { name: 'Cut again' }).first().click()
    const use = this.page.getByRole('button', { name: 'Use this cut' })
    await expect(use).toBeEnabled()
    await this.page.getByRole('button', { name: this.random.pick(['Turn', 'Nearer', 'Farther']) }).click()
    const answer = this.page.waitForResponse('**/api/pictures/cut')
    await this.press(use)
    const { media } = (await (await answer).json()) as { media: string }
    this.model.change((next) => (next.picture = media))
    await expect(use).toHaveCount(0)
    await this.page.keyboard.press('Escape')
  }

  async look() {
    await this.page.getByRole('link', { name: 'Look' }).click()
    await this.page.getByRole('link', { name: 'Arrange' }).click()
    await this.rows().first().waitFor()
  }

  async otherPage() {
    const at = [...this.models.keys()].findIndex((id) => id !== this.open)
    await this.page.getByRole('combobox', { name: 'Page' }).click()
    await this.page.getByRole('option').nth(at).click()
    this.open = [...this.models.keys()][at]!
    await this.page.waitForURL(`**/${this.open}/**`)
    await this.rows().first().waitFor()
    this.lastTyped = ''
  }

  async reload() {
    this.reloads++
    const atRest = this.random.chance(0.5)
    if (atRest) await this.compare()
    await this.page.reload()
    await this.rows().first().waitFor()
    // What was on its way is one step when it comes back; what had arrived can be undone as before.
    if (!atRest) for (const model of this.models.values()) model.forget()
    this.lastTyped = ''
  }

  async step() {
    const at = this.random.below(1000)
    const [what] = STEPS_OF.find(([, until]) => at < until)!
    const before = this.model.now
    await this[what]()
    this.did.push(what)
    // Two times the same field in a row would be one step of undo, if quick enough.
    if (what !== 'type' && what !== 'name' && this.model.now !== before) this.lastTyped = ''
  }

  /** What is on screen, and once all is saved what the server has, is as it should be. */
  async compare() {
    const shown = await this.rows().evaluateAll((all) =>
      all.map((row) => row.getAttribute('aria-label')!.replace(/^[^:]*: /, '')),
    )
    expect(shown).toEqual(this.model.now.rows.map(({ title }) => title))
    await expect(this.page.locator('.standing').getByText(/saving|saved/)).toHaveCount(0, { timeout: 60_000 })
    await expect(this.page.locator('.notices [role=alert]')).toHaveCount(0, { timeout: 60_000 })
    // The line above speaks of the open page; the other may still be on its way.
    for (const [id, model] of this.models)
      await expect(async () => {
        const answer = await this.page.request.get(`/api/pages/${id}`)
        expect(sightOf(((await answer.json()) as PageState).document)).toEqual(model.sight)
      }).toPass({ timeout: 60_000 })
  }
}

/** A page with two rows, a name and a picture. */
async function furnish(walker: Walker) {
  const { page } = walker
  walker.open = /pages\/([^/]+)/.exec(page.url())![1]!
  walker.models.set(walker.open, new PageModel())
  await page.getByRole('button', { name: 'Edit name, line and picture' }).click()
  await page.getByLabel('Picture: file').setInputFiles(picture('portrait.png', 240, 240))
  const answer = page.waitForResponse('**/api/pictures/cut')
  await page.getByRole('button', { name: 'Use this cut' }).click()
  const { media } = (await (await answer).json()) as { media: string }
  walker.model.change((next) => (next.picture = media))
  await page.keyboard.press('Escape')
  for (let n = 0; n < 3; n++) await walker.add()
}

for (const seed of SEEDS)
  test(`${STEPS} steps from seed ${seed} on a bad line lose nothing that was typed`, async ({ page }) => {
    test.setTimeout(20 * 60_000)
    const walker = new Walker(page, randomFrom(seed), randomFrom(seed + 1_000))
    page.setDefaultTimeout(15_000)
    page.on('dialog', (asked) => void asked.accept())
    await walker.spoilLine()
    await startEmpty(page, freshName('walk'))
    await furnish(walker)
    await addPage(page, freshName('walk-on'))
    await furnish(walker)
    for (let step = 1; step <= STEPS; step++) {
      await walker.step()
      walker.check()
      if (step % LOOK_EVERY === 0) await walker.compare()
    }
    await walker.compare()
    console.log(
      `seed ${seed}: ${STEPS} steps, ${walker.saves} saves, ${walker.failures} failures, ${walker.reloads} reloads`,
    )
    for (const model of walker.models.values()) expect(model.now.rows.length).toBeGreaterThan(0)
  })
