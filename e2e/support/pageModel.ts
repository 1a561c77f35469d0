import type { Document } from './api'

/** What the walk knows of a page: its name, its rows, and where its picture was cut. */
export interface Sight {
  name: string
  picture: string
  rows: { title: string; shown: boolean; id?: number }[]
}

let rows = 0
/** A row that is told from another of the same looks. */
export const newRow = (title = 'New heading', shown = true) => ({ title, shown, id: ++rows })

/** What can be seen of it. */
const seen = ({ name, picture, rows }: Sight): Sight => ({
  name,
  picture,
  rows: rows.map(({ title, shown }) => ({ title, shown })),
})

export const sightOf = (document: Document): Sight => ({
  name: document.header.name,
  picture: document.header.picture?.media ?? '',
  rows: document.blocks.map((block) => ({ title: block.heading?.text ?? block.kind, shown: block.shown })),
})

/** A page as it should be, after everything that was done to it. */
export class PageModel {
  now: Sight = { name: '', picture: '', rows: [] }
  private past: Sight[] = []
  private future: Sight[] = []
  /** States it went through that the server may still be told of, the oldest first. */
  private passed: Sight[] = []

  get sight() {
    return seen(this.now)
  }

  /** Does one step that can be undone. */
  change(make: (next: Sight) => void) {
    const before = this.now
    const next = structuredClone(before)
    make(next)
    if (JSON.stringify(next) === JSON.stringify(before)) return
    this.past.push(before)
    this.future = []
    this.become(next)
  }

  /** Goes on with the step that was begun, as typing does. */
  goOn(make: (next: Sight) => void) {
    const next = structuredClone(this.now)
    make(next)
    this.become(next)
  }

  undo() {
    const before = this.past.pop()
    if (!before) return false
    this.future.push(this.now)
    this.become(before)
    return true
  }

  redo() {
    const after = this.future.pop()
    if (!after) return false
    this.past.push(this.now)
    this.become(after)
    return true
  }

  /** Nothing is known of the steps any more. */
  forget() {
    this.past = []
    this.future = []
  }

  get canUndo() {
    return this.past.length > 0
  }

  get canRedo() {
    return this.future.length > 0
  }

  /** Whether the server may have been sent this now; what came before it is not sent again. */
  mayBe(sent: Sight) {
    const at = this.passed.findIndex((each) => JSON.stringify(seen(each)) === JSON.stringify(sent))
    if (at < 0) return false
    this.passed = this.passed.slice(at)
    return true
  }

  private become(next: Sight) {
    this.now = next
    this.passed.push(next)
  }

  constructor() {
    this.passed.push(this.now)
  }
}
