import { describe, expect, it } from 'vitest'
import { readLines } from './takingEvents'

const stream = (...chunks: string[]) =>
  new ReadableStream<Uint8Array>({
    start(to) {
      for (const chunk of chunks) to.enqueue(new TextEncoder().encode(chunk))
      to.close()
    },
  })

describe('raw events on their way', () => {
  it('are counted as they come, and whole in the end', async () => {
    const said: number[] = []
    const file = await readLines(stream('{"a":1}\n{"a"', ':2}\n', '{"a":3}\n'), (n) => said.push(n))
    expect(said).toEqual([1, 2, 3])
    expect(file.size).toBe(24)
  })

  it('that break off are an error and no file', async () => {
    const broken = new ReadableStream<Uint8Array>({
      pull(to) {
        to.error(new TypeError('network error'))
      },
    })
    await expect(readLines(broken, () => undefined)).rejects.toThrow('network error')
  })
})
