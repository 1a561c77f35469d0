import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { defineConfig, devices } from '@playwright/test'
import { ISSUER, MAIL, NAMES, PUBLIC, STANDINS, STUDIO, TLS_PORT } from './support/places'

const port = (origin: string) => `127.0.0.1:${new URL(origin).port}`

process.env.JUNDLE_E2E_SCRATCH ??= mkdtempSync(join(tmpdir(), 'jundle-e2e-'))
const scratch = process.env.JUNDLE_E2E_SCRATCH

/** Drives the real program: its own ports, an empty database with the demo loaded into it. */
export default defineConfig({
  testDir: '.',
  testMatch: '*.spec.ts',
  workers: 2,
  fullyParallel: true,
  forbidOnly: true,
  // What passes only the second time is listed as flaky: it hides a fault of the test or, as often, of the program.
  retries: 1,
  timeout: 120_000,
  expect: { timeout: 20_000 },
  reporter: [['list']],
  use: {
    baseURL: STUDIO,
    // Headless Chromium says that it is one, and is not counted.
    userAgent: devices['Desktop Chrome'].userAgent,
    viewport: { width: 1280, height: 800 },
    contextOptions: { reducedMotion: 'reduce' },
    // It would answer in place of what a test has the network do.
    serviceWorkers: 'block',
    // Each worker stands in a network of its own: what is asked for from one is limited.
    extraHTTPHeaders: { 'X-Forwarded-For': `203.0.113.${1 + Number(process.env.TEST_WORKER_INDEX ?? 0)}` },
    // Recording every step of every test takes as long as the test; ask for it when one fails.
    trace: process.env.TRACE ? 'retain-on-failure' : 'off',
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: '/usr/bin/chromium-headless-shell',
      args: [
        '--no-sandbox',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
  webServer: {
    command: 'sh -c "../bin/jundle simulate && exec ../bin/jundle serve"',
    url: `${STUDIO}/readyz`,
    timeout: 120_000,
    gracefulShutdown: { signal: 'SIGTERM', timeout: 20_000 },
    env: {
      JUNDLE_STUDIO_LISTEN: port(STUDIO),
      JUNDLE_PUBLIC_LISTEN: port(PUBLIC),
      JUNDLE_STANDIN_LISTEN: port(STANDINS),
      JUNDLE_STANDIN_MAIL_LISTEN: port(MAIL),
      JUNDLE_MAIL_URL: MAIL,
      JUNDLE_TRACKING_CODES: 'true',
      JUNDLE_DOMAIN_TARGET: 'pages.jundle.example',
      JUNDLE_TLS_LISTEN: `127.0.0.1:${TLS_PORT}`,
      JUNDLE_TLS_PORT: String(TLS_PORT),
      JUNDLE_STANDIN_DNS_LISTEN: NAMES,
      JUNDLE_RESOLVER: NAMES,
      JUNDLE_STANDIN_ACME_LISTEN: ISSUER,
      JUNDLE_ACME_URL: `https://${ISSUER}/dir`,
      JUNDLE_ACME_EMAIL: 'letters@jundle.example',
      JUNDLE_TILES_URL: 'https://tiles.example/{z}/{x}/{y}.png',
      JUNDLE_TILES_ATTRIBUTION: 'Map by the surveyors of tiles.example',
      JUNDLE_STUDIO_URL: STUDIO,
      JUNDLE_PUBLIC_URL: PUBLIC,
      // A folder of its own, gone with the machine's temporary files.
      JUNDLE_DATA_DIR: join(scratch, 'events'),
      JUNDLE_MEDIA: join(scratch, 'media'),
      JUNDLE_TRUSTED_PROXIES: '127.0.0.0/8',
      // All visitors of all tests come from one address.
      JUNDLE_FLOOD_BUDGET: '100000',
    },
  },
})
