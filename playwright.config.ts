import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: 'tests/pages',
  // Limits that only catch what never ends, however busy the machine is.
  timeout: 600_000,
  expect: { timeout: Number(process.env.LIVELY_PATIENCE ?? 180) * 1000 },
  workers: 1,
  // Named at the end of the run (`scripts/test.mjs`): a test that needs it is looked at.
  retries: 1,
  fullyParallel: false,
  reporter: [
    ['list'],
    ['json', { outputFile: process.env.LIVELY_PAGES_REPORT ?? 'test-results/pages.json' }],
  ],
  use: {
    baseURL: process.env.LIVELY_ADDRESS,
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: {
      executablePath: '/usr/bin/chromium-headless-shell',
      args: [
        '--no-sandbox',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--no-first-run',
      ],
    },
    screenshot: 'only-on-failure',
  },
});
