import { createHmac } from 'node:crypto'

const BASE32 = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567'

/** What an authenticator app shows (RFC 6238 with RFC 4226, section 5.3), so many steps of 30 seconds from now. */
export function codeOf(secret: string, steps = 0) {
  const bits = [...secret].map((letter) => BASE32.indexOf(letter).toString(2).padStart(5, '0')).join('')
  const key = Buffer.from(bits.match(/.{8}/g)!.map((byte) => parseInt(byte, 2)))
  const counter = Buffer.alloc(8)
  counter.writeBigUInt64BE(BigInt(Math.floor(Date.now() / 30_000) + steps))
  const mac = createHmac('sha1', key).update(counter).digest()
  const number = mac.readUInt32BE(mac[19]! & 15) & 0x7fffffff
  return String(number % 1_000_000).padStart(6, '0')
}
