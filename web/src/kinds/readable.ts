import { toUnicode } from 'punycode/punycode.es6.js'

/** An address with its internationalised host in its own letters, as people read it. */
export const readable = (address: string | undefined) =>
  address?.replace(/^(https?:\/\/)([^/?#]*xn--[^/?#]*)/i, (_, scheme: string, host: string) => scheme + toUnicode(host)) // prettier-ignore
