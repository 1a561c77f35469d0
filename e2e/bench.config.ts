import { defineConfig } from '@playwright/test'
import config from './playwright.config'

/** What `make bench` runs in the browser: the real program, one thing at a time, figures on the console. */
export default defineConfig({ ...config, testMatch: '*.bench.ts', workers: 1, reporter: [['list']] })
