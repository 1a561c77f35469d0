import type { Document, StepTaken } from '@/api/client'

/** What a save may carry beside the page itself, in characters: on a bad line that is much already. */
const CARRIED = 100_000

/** At most this many steps are told with one save. */
const TOLD = 100

const MAX_NAME = 200

/** A step that the server has not been told of, with the page as it was before it. */
export interface Taken {
  key: string
  name: string
  way: StepTaken['way']
  before: Document
}

/** Steps on their way to the server: it keeps them, so that they can be undone later and elsewhere. */
export class StepsTaken {
  private waiting: Taken[] = []
  /** How many of them are on their way. */
  private sent = 0

  get none() {
    return this.waiting.length === 0
  }

  add(step: Taken) {
    const last = this.waiting.at(-1)
    const goesOn = last?.key === step.key && last.way === 'done' && step.way === 'done'
    if (goesOn && this.sent < this.waiting.length) return
    this.waiting.push(step)
  }

  /**
   * Those to be told with a save, and what to call once it has arrived. Each but the first comes with the page
   * as it was before it; where that would be too much, several become one.
   */
  tell(): { steps: StepTaken[]; told: () => void } {
    const given = [...this.waiting]
    this.sent = given.length
    let room = CARRIED
    const steps = given.slice(-TOLD).map(({ key, name, way, before }, i): StepTaken => {
      const size = i > 0 ? JSON.stringify(before).length : 0
      const carried = i > 0 && size <= room
      if (carried) room -= size
      return { key, name: name.slice(0, MAX_NAME), way, ...(carried && { before }) }
    })
    return {
      steps,
      told: () => {
        this.waiting = this.waiting.slice(given.length)
        this.sent = 0
      },
    }
  }

  /** Takes in what was changed elsewhere, as if it had been so before. */
  meet(make: (before: Document) => Document) {
    for (const step of this.waiting) step.before = make(step.before)
  }
}
