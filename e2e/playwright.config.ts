import { defineConfig } from '@playwright/test'

// The real program with a database and a bench of its own, and Debian's Chromium. One worker: the bench is
// one device, and two pilots at it would be in each other's way.
export default defineConfig({
  testDir: '.',
  testMatch: '*.spec.ts',
  workers: 1,
  fullyParallel: false,
  timeout: 150_000,
  expect: { timeout: 10_000 },
  reporter: [['list']],
  forbidOnly: Boolean(process.env.CI),
  use: {
    viewport: { width: 1280, height: 800 },
    trace: 'retain-on-failure',
    launchOptions: {
      executablePath: process.env.PERCH_CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
})
