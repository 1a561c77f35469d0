import { expect, test, type Page } from '@playwright/test'
import type { Document, PageState } from './support/api'
import { saved, spoil } from './support/lines'
import { freshName, startEmpty, titles } from './support/people'
import { STUDIO } from './support/places'
import { randomFrom, type Random } from './support/random'

const SEEDS = (process.env.WALK_SEEDS ?? '1,2').split(',').map(Number)
const ROUNDS = Number(process.env.WALK_ROUNDS ?? 5)
/** What each does in a round before both look up. */
const STEPS = 4

const STEPS_OF = ['title', 'line', 'hide', 'name', 'add', 'twice', 'remove', 'move', 'title', 'line'] as const

const keyOf = (row: HTMLElement | SVGElement) => row.dataset.key!

/** One of two who work on the same page at the same time, and what each changed since they were of one mind. */
class Person {
  /** The last value at each place: of a field, or whether a row is there. */
  readonly did = new Map<string, unknown>()
  asked = 0
  private words = 0

  constructor(
    readonly page: Page,
    readonly called: string,
    readonly random: Random,
  ) {}

  private word = () => `${this.called} ${++this.words}`
  private keys = () => this.page.locator('.rows > li').evaluateAll((all) => all.map((row) => (row as HTMLElement).dataset.key!)) // prettier-ignore

  private openRow = () => this.page.locator('.rows > li.open').evaluate(keyOf)

  /** Presses a key on a row. */
  private async key(row: string, key: string) {
    await this.page.locator(`.rows > li[data-key="${row}"]`).focus()
    await this.page.keyboard.press(key)
  }

  private async over(text: string) {
    await this.page.keyboard.press('Control+a')
    await this.page.keyboard.insertText(text)
  }

  async step() {
    const rows = await this.keys()
    const row = this.random.pick(rows)
    const what = this.random.pick(STEPS_OF)
    if (what === 'remove' && rows.length < 4) return
    try {
      await this[what](row)
    } catch (error) {
      // The other has deleted it meanwhile, and what was typed into it has nowhere to be.
      if ((await this.keys()).includes(row)) throw error
    }
    return `${this.called} ${what} ${row}`
  }

  async title(row: string) {
    const word = this.word()
    await this.key(row, 'F2')
    await this.over(word)
    await this.page.keyboard.press('Enter')
    this.did.set(`${row}/title`, word)
  }

  async line(row: string) {
    const word = this.random.chance(0.3) ? '' : this.word()
    await this.key(row, 'Enter')
    await this.page.getByLabel('Second line').fill(word)
    await expect(this.page.getByLabel('Second line')).toHaveValue(word)
    expect(await this.openRow()).toBe(row)
    await this.page.keyboard.press('Escape')
    this.did.set(`${row}/line`, word)
  }

  async hide(row: string) {
    await this.key(row, 'h')
    const dim = await this.page
      .locator(`.rows > li[data-key="${row}"]`)
      .evaluate((li) => li.classList.contains('hidden'))
    this.did.set(`${row}/shown`, !dim)
  }

  async name() {
    const word = this.word()
    await this.page.getByRole('button', { name: 'Edit name, line and picture' }).press('Enter')
    await this.over(word)
    await expect(this.page.getByLabel('Name', { exact: true })).toHaveValue(word)
    await this.page.keyboard.press('Escape')
    this.did.set('name', word)
  }

  /** Adds a block by pressing twice, which adds one. */
  async add() {
    await this.page.getByRole('button', { name: 'Add a block' }).click()
    await this.page.getByRole('menuitem', { name: 'Button', exact: true }).dblclick()
    const word = this.word()
    const key = await this.openRow()
    await this.page.getByLabel('Title', { exact: true }).fill(word)
    await this.page.keyboard.press('Escape')
    this.did.set(`${key}/title`, word)
    this.did.set(key, true)
  }

  /** Duplicates a row with a key that is pressed twice. */
  async twice(row: string) {
    for (let press = 0; press < 2; press++) {
      await this.key(row, 'd')
      this.did.set(await this.page.locator(`.rows > li[data-key="${row}"] + li`).evaluate(keyOf), true)
    }
  }

  async remove(row: string) {
    await this.key(row, 'Delete')
    this.did.set(row, false)
  }

  async move(row: string) {
    await this.key(row, this.random.pick(['Alt+ArrowUp', 'Alt+ArrowDown']))
  }

  /** Answers what is asked, one way or the other, and looks whether the other has done something. */
  async lookUp() {
    const choice = this.page.getByRole('alert', { name: 'Changed here and elsewhere' })
    if (await choice.isVisible()) {
      this.asked++
      await choice.getByRole('button', { name: this.random.pick([/^Keep/, /^Take/]) }).click()
    }
    await this.page.evaluate(() => window.dispatchEvent(new Event('focus')))
  }

  /** Whether nothing is on its way and nothing is asked. */
  async isAtRest() {
    return (
      (await this.page
        .locator('.standing')
        .getByText(/saving|saved/)
        .count()) === 0
    )
  }
}

/** What stands at a place of a page. */
function at(document: Document, place: string): unknown {
  if (place === 'name') return document.header.name
  const [key, field] = place.split('/')
  const block = document.blocks.find((each) => each.key === key)
  if (!field) return block !== undefined
  if (field === 'shown') return block?.shown
  return block?.button?.[field as 'title' | 'line'] ?? ''
}

/** What one changed alone is as it was left; what both changed is as one of them left it. */
function check(document: Document, [one, other]: [Person, Person], told: string) {
  for (const place of new Set([...one.did.keys(), ...other.did.keys()])) {
    const [key, field] = place.split('/') as [string, string?]
    const mayBe = [one, other].filter(({ did }) => did.has(place)).map(({ did }) => did.get(place))
    if (field && !at(document, key) && place !== 'name') {
      expect(
        [one, other].some(({ did }) => did.get(key) === false),
        `${place} went by itself: ${told}`,
      ).toBe(true)
      continue
    }
    const deletedWhileChanged = !field && place !== 'name' && mayBe.includes(false)
    if (
      deletedWhileChanged &&
      [one, other].some(({ did }) => [...did.keys()].some((each) => each.startsWith(`${key}/`)))
    )
      continue
    expect(mayBe, `${place} after ${told}`).toContainEqual(at(document, place))
  }
}

/** Gives the page some buttons to begin with. */
async function furnish(page: Page, id: string) {
  const { revision, document } = (await (await page.request.get(`/api/pages/${id}`)).json()) as PageState
  for (const key of ['aaaa', 'bbbb', 'cccc', 'dddd', 'eeee', 'ffff'])
    document.blocks.push({
      key, kind: 'button', shown: true,
      button: { title: key, line: 'as it was', address: `https://kiln.example/${key}` },
    }) // prettier-ignore
  const answer = await page.request.put(`/api/pages/${id}/draft`, {
    data: { revision, document },
    headers: { Origin: STUDIO },
  })
  expect(answer.status()).toBe(200)
  await page.reload()
}

for (const seed of SEEDS)
  test(`two people who change one page at once lose nothing, from seed ${seed}`, async ({
    page,
    browser,
  }) => {
    test.setTimeout(10 * 60_000)
    await startEmpty(page, freshName('two'))
    await furnish(page, /pages\/([^/]+)/.exec(page.url())![1]!)
    const context = await browser.newContext({ storageState: await page.context().storageState() })
    const second = await context.newPage()
    await second.goto(page.url())
    const two: [Person, Person] = [
      new Person(page, 'Ann', randomFrom(seed)),
      new Person(second, 'Bea', randomFrom(seed + 500)),
    ]
    for (const [i, { page }] of two.entries()) {
      page.setDefaultTimeout(15_000)
      await spoil(page, randomFrom(seed + 1_000 + i))
      await expect(page.locator('.rows > li')).toHaveCount(6)
    }
    for (let round = 1; round <= ROUNDS; round++) {
      const did = await Promise.all(
        two.map(async (person) => {
          const steps = []
          for (let step = 0; step < STEPS; step++) steps.push(await person.step())
          return steps.join(', ')
        }),
      )
      let document!: Document
      await expect(async () => {
        for (const person of two) await person.lookUp()
        for (const person of two) expect(await person.isAtRest()).toBe(true)
        document = await saved(page)
        const rows = document.blocks.map((block) => block.button!.title)
        for (const person of two) expect(await titles(person.page)).toEqual(rows)
      }).toPass({ timeout: 60_000 })
      check(document, two, did.join('; '))
      for (const person of two) person.did.clear()
    }
    console.log(`seed ${seed}: ${ROUNDS} rounds, asked ${two.map(({ asked }) => asked).join(' and ')} times`)
    await context.close()
  })
