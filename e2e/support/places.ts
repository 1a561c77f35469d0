import { execFileSync } from 'node:child_process'

/**
 * Finds ports that nobody listens on, all at once so that none is found twice: below those that the system gives to
 * connections that lead out, which can take one at any moment.
 */
export const findPorts = (n: number) =>
  execFileSync(process.execPath, [
    '-e',
    `const net = require('node:net')
     const found = []
     const look = () => {
       if (found.length === ${n}) {
         console.log(found.join(' '))
         process.exit()
       }
       const port = 20000 + Math.floor(Math.random() * 12000)
       const server = net.createServer().on('error', look)
       server.listen(port, '127.0.0.1', () => { found.push(port); look() })
     }
     look()`,
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
