import { defineConfig } from '@playwright/test'

// The real program with a database and a bench of its own for every story, and Debian's Chromium. Four stories
// at a time, which mostly wait for their bench's clock; the speeds are measured after them, alone.
export default defineConfig({
  testDir: '.',
  globalSetup: './prepare.ts',
  projects: [
    { name: 'stories', testMatch: '*.spec.ts', testIgnore: 'speed.spec.ts' },
    { name: 'speed', testMatch: 'speed.spec.ts', dependencies: ['stories'] },
  ],
  workers: 3, // two processors are busy with three; bin/test asks for fewer beside other work
  fullyParallel: true,
  // What is told twice would hide what is told wrongly.
  retries: 0,
  timeout: 900_000, // the longest takes a minute with the machine to itself
  // A machine that is busy with something else is slow, not wrong; what holds at once costs none of it.
  expect: { timeout: 60_000 },
  reporter: [['list']],
  forbidOnly: Boolean(process.env.CI),
  use: {
    viewport: { width: 1280, height: 800 },
    // What moves by itself takes a sixth of the machine; with --long it moves.
    contextOptions: { reducedMotion: process.env.PERCH_LONG ? 'no-preference' : 'reduce' },
    // Traces cost a third of the time; ask for them when a story fails: PERCH_TRACE=1.
    trace: process.env.PERCH_TRACE ? 'retain-on-failure' : 'off',
    launchOptions: {
      executablePath: process.env.PERCH_CHROMIUM ?? '/usr/bin/chromium-headless-shell',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--font-render-hinting=none',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
})
