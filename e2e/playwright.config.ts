import { defineConfig } from '@playwright/test'

export default defineConfig({
  testDir: '.',
  outputDir: '../test-results',
  timeout: 120_000,
  expect: { timeout: 15_000 },
  workers: 2,
  retries: process.env.CI ? 1 : 0, // a test that fails once is named as flaky, in a fresh house
  forbidOnly: !!process.env.CI,
  reporter: 'list',
  use: {
    viewport: { width: 1280, height: 800 },
    colorScheme: 'light',
    timezoneId: 'Etc/UTC',
    screenshot: 'only-on-failure',
    actionTimeout: 20_000,
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--headless',
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--js-flags=--liftoff-only', // compiling the core a second time, tighter, costs more than a test gains by it
        '--host-resolver-rules=MAP elsewhere.test 127.0.0.1',
      ],
    },
  },
})
