import jsQR from 'jsqr'
import { PNG } from 'pngjs'

/** What a QR code in a PNG says, as a phone reads it; undefined where it cannot be read. */
export function readCode(png: Buffer) {
  const picture = PNG.sync.read(png)
  return jsQR(new Uint8ClampedArray(picture.data), picture.width, picture.height)?.data
}
