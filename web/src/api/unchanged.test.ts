import createClient from 'openapi-fetch'
import { beforeEach, describe, expect, it } from 'vitest'
import type { paths } from './generated/schema'
import { forgetAnswers, unchanged } from './unchanged'

const asked: (string | null)[] = []
let tag = '"one"'

/** A server whose answer has a tag, and which says 304 to whoever has it. */
const client = createClient<paths>({
  baseUrl: 'https://studio.example',
  fetch: async (request) => {
    const known = request.headers.get('If-None-Match')
    asked.push(known)
    if (known === tag) return new Response(null, { status: 304 })
    return Response.json([{ address: tag }], { headers: { ETag: tag } })
  },
})
client.use(unchanged)
const read = async () => (await client.GET('/api/pages')).data?.[0]?.address

describe('an answer that has not changed', () => {
  beforeEach(() => {
    forgetAnswers()
    asked.length = 0
    tag = '"one"'
  })

  it('is taken from what is at hand', async () => {
    expect(await read()).toBe('"one"')
    expect(await read()).toBe('"one"')
    expect(asked).toEqual([null, '"one"'])
  })

  it('is replaced once it has', async () => {
    await read()
    tag = '"two"'
    expect(await read()).toBe('"two"')
    expect(await read()).toBe('"two"')
    expect(asked).toEqual([null, '"one"', '"two"'])
  })

  it('is forgotten with the session', async () => {
    await read()
    forgetAnswers()
    await read()
    expect(asked).toEqual([null, null])
  })
})
