import { execFileSync } from 'node:child_process'

/** Finds ports that nobody listens on, all at once so that none is found twice. */
const findPorts = (n: number) =>
  execFileSync(process.execPath, [
    '-e',
    `const net = require('node:net')
     const servers = Array.from({ length: ${n} }, () => net.createServer().listen(0, '127.0.0.1'))
     setTimeout(() => { console.log(servers.map((s) => s.address().port).join(' ')); process.exit() }, 100)`,
  ])
    .toString()
    .trim()

// Found once, by the process that starts the others.
process.env.JUNDLE_E2E_PORTS ??= findPorts(7)
const [studio, pages, standins, mail, tls, names, issuer] = process.env.JUNDLE_E2E_PORTS.split(' ')

/** Where the program under test listens. */
export const STUDIO = `http://localhost:${studio}`
export const PUBLIC = `http://127.0.0.1:${pages}`
export const STANDINS = `http://127.0.0.1:${standins}`
/** The made-up mail server; what it took is shown by STANDINS. */
export const MAIL = `smtp://127.0.0.1:${mail}`
/** Where visitors arrive by TLS under domains of creators’ own. */
export const TLS_PORT = Number(tls)
/** The made-up name server and issuer of certificates. */
export const NAMES = `127.0.0.1:${names}`
export const ISSUER = `127.0.0.1:${issuer}`
