import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: 'e2e',
  testMatch: '*.spec.ts',
  // Each has a demo of its own (e2e/global-setup.ts).
  workers: 3,
  timeout: 180_000,
  retries: process.env.CI ? 1 : 0,
  expect: { timeout: 20_000 },
  globalSetup: './e2e/global-setup.ts',
  reporter: [
    ['list'],
    ['json', { outputFile: process.env.INSEL_E2E_REPORT ?? 'test-results/e2e.json' }],
  ],
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: '/usr/bin/chromium',
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
});
