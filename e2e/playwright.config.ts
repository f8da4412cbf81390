import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: '.',
  outputDir: '../test-results',
  // Generous: shared machines can be many times slower than usual for minutes.
  timeout: 360_000,
  expect: { timeout: 90_000 },
  workers: 1,
  retries: 0,
  reporter: [['line'], ['json', { outputFile: '../test-results/e2e.json' }]],
  use: {
    baseURL: process.env['OVREL_E2E_URL'] ?? 'http://localhost:3000',
    viewport: { width: 1280, height: 800 },
    trace: 'off',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-background-networking', '--disable-dev-shm-usage'],
    },
  },
});
