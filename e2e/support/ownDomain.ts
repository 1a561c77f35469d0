import { createHash, X509Certificate } from 'node:crypto'
import { connect, type PeerCertificate } from 'node:tls'
import { chromium, expect, type APIRequestContext, type Page } from '@playwright/test'
import { STANDINS, TLS_PORT } from './places'

export interface Entry {
  name: string
  type: string
  value: string
}

/** Sets an entry in the made-up DNS, or takes it out. */
export async function setName(request: APIRequestContext, entry: Entry, path = '/names') {
  expect((await request.post(`${STANDINS}${path}`, { form: { ...entry } })).ok()).toBe(true)
}

/** The entries that a screen says to set. */
export const entriesOn = (page: Page) =>
  page.locator('.entry').evaluateAll((all) =>
    all.map((entry) => {
      const [name = '', value = ''] = Array.from(
        entry.querySelectorAll('dd > code'),
        (each) => each.textContent ?? '',
      )
      return { type: entry.querySelector('strong')?.textContent ?? '', name, value }
    }),
  )

/** The certificate that stands at a host, which has to rest on the made-up issuer’s root and be for that host. */
async function certificateOf(request: APIRequestContext, host: string) {
  const ca = await (await request.get(`${STANDINS}/issuer.pem`)).text()
  return new Promise<PeerCertificate>((resolve, reject) => {
    const socket = connect({ host: '127.0.0.1', port: TLS_PORT, servername: host, ca }, () => {
      resolve(socket.getPeerCertificate())
      socket.end()
    })
    socket.on('error', reject)
  })
}

/** A browser to which a host is here, and that trusts the one certificate that stands at it. */
export async function browserAt(request: APIRequestContext, host: string) {
  const { raw } = await certificateOf(request, host)
  const key = new X509Certificate(raw).publicKey.export({ type: 'spki', format: 'der' })
  return chromium.launch({
    executablePath: '/usr/bin/chromium-headless-shell',
    args: [
      '--no-sandbox',
      `--host-resolver-rules=MAP ${host} 127.0.0.1`,
      `--ignore-certificate-errors-spki-list=${createHash('sha256').update(key).digest('base64')}`,
    ],
  })
}
