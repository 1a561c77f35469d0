import { crc32, deflateSync } from 'node:zlib'
import type { Page } from '@playwright/test'

/** A PNG of so many bits and such a colour type, out of its rows with a filter byte before each. */
function encode(width: number, height: number, bits: number, colourType: number, rows: Buffer) {
  const chunk = (kind: string, data: Buffer) => {
    const body = Buffer.concat([Buffer.from(kind), data])
    const out = Buffer.alloc(body.length + 8)
    out.writeUInt32BE(data.length, 0)
    body.copy(out, 4)
    out.writeUInt32BE(crc32(body), body.length + 4)
    return out
  }
  const head = Buffer.alloc(13)
  head.writeUInt32BE(width, 0)
  head.writeUInt32BE(height, 4)
  head.set([bits, colourType], 8)
  const parts = [chunk('IHDR', head), chunk('IDAT', deflateSync(rows)), chunk('IEND', Buffer.alloc(0))]
  return Buffer.concat([Buffer.from('\x89PNG\r\n\x1a\n', 'latin1'), ...parts])
}

/** A black PNG of that size, one bit a pixel: many pixels in few bytes. */
export const blackPNG = (width: number, height: number) =>
  encode(width, height, 1, 0, Buffer.alloc((Math.ceil(width / 8) + 1) * height))

/** A PNG file of that size: four fields of colour, so that one sees which way up it is. */
export function picture(name: string, width: number, height: number) {
  const rows = Buffer.alloc((width * 3 + 1) * height)
  const colours = [0xb06a2c, 0x2f5d62, 0xe8dcc6, 0x3b332c]
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      rows.writeUIntBE(
        colours[(y < height / 2 ? 0 : 2) + (x < width / 2 ? 0 : 1)]!,
        y * (width * 3 + 1) + 1 + x * 3,
        3,
      )
  return { name, mimeType: 'image/png', buffer: encode(width, height, 8, 2, rows) }
}

/** A film of a second, as this browser makes one. */
export async function film(page: Page) {
  const bytes = await page.evaluate(async () => {
    const canvas = document.createElement('canvas')
    canvas.width = 160
    canvas.height = 120
    const paint = canvas.getContext('2d')!
    const recorder = new MediaRecorder(canvas.captureStream(25), { mimeType: 'video/webm' })
    const parts: Blob[] = []
    recorder.ondataavailable = ({ data }) => parts.push(data)
    const ended = new Promise((resolve) => (recorder.onstop = resolve))
    recorder.start()
    for (let frame = 0; frame < 25; frame++) {
      paint.fillStyle = `hsl(${frame * 10} 50% 50%)`
      paint.fillRect(0, 0, 160, 120)
      await new Promise(requestAnimationFrame)
    }
    recorder.stop()
    await ended
    return Array.from(new Uint8Array(await new Blob(parts).arrayBuffer()))
  })
  return { name: 'fire.webm', mimeType: 'video/webm', buffer: Buffer.from(bytes) }
}
