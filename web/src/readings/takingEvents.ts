/** How far the raw events have come. */
export interface Progress {
  came: number
  of: number
}

/**
 * Reads a stream of lines and says how many have come. It answers the parts of the file, which a
 * browser keeps on disk once they are many.
 */
export async function readLines(
  stream: ReadableStream<Uint8Array>,
  say: (lines: number) => void,
): Promise<Blob> {
  const NEWLINE = 10
  const reader = stream.getReader()
  let parts: Uint8Array<ArrayBuffer>[] = []
  let held = 0
  let whole = new Blob([])
  let lines = 0
  const PART = 4 << 20
  for (;;) {
    const { done, value } = await reader.read()
    if (done) return new Blob([whole, ...parts])
    for (const byte of value) if (byte === NEWLINE) lines++
    parts.push(new Uint8Array(value))
    held += value.length
    if (held > PART) {
      whole = new Blob([whole, ...parts])
      parts = []
      held = 0
    }
    say(lines)
  }
}
