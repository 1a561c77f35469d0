import { expect, type APIRequestContext } from '@playwright/test'
import { STANDINS } from './places'

/** A letter that the made-up mail server took. */
export interface Letter {
  id: number
  to: string
  subject: string
  text: string
  html: string
  header: Record<string, string>
}

/** The latest letter to somebody whose subject says this, once it is there. */
export async function letterTo(request: APIRequestContext, to: string, subject: RegExp): Promise<Letter> {
  let found: Letter | undefined
  await expect(async () => {
    const answer = await request.get(`${STANDINS}/mail.json?to=${encodeURIComponent(to)}`)
    found = ((await answer.json()) as Letter[]).find((letter) => subject.test(letter.subject))
    expect(found, `a letter to ${to} about ${subject}`).toBeDefined()
  }).toPass({ intervals: [50, 100, 100, 200, 500] })
  return found!
}

/** The address that a letter carries to open something. */
export const linkIn = (letter: Letter) => /http\S+#[A-Z2-7]+/.exec(letter.text)![0]
