// Reads the QR codes in the PNG files named on the command line with jsQR, and
// prints what each says as a JSON list; null where it cannot be read. Called by
// the tests of internal/qr, which hold the codes against two decoders.
import { readFileSync } from 'node:fs'
import jsQR from 'jsqr'
import { PNG } from 'pngjs'

const read = (file) => {
  const picture = PNG.sync.read(readFileSync(file))
  return jsQR(new Uint8ClampedArray(picture.data), picture.width, picture.height)?.data ?? null
}
console.log(JSON.stringify(process.argv.slice(2).map(read)))
