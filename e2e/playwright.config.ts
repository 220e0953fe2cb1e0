import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: '.',
  timeout: 120_000,
  expect: { timeout: 15_000 },
  workers: 1,
  retries: 0,
  forbidOnly: true,
  outputDir: './test-results',
  reporter: [['list'], ['json', { outputFile: process.env.PLAYWRIGHT_JSON ?? 'test-results/report.json' }]],
  use: {
    baseURL: process.env.HALF_LOOP_URL ?? 'http://localhost:4380',
    viewport: { width: 1100, height: 720 },
    actionTimeout: 15_000,
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: [
        ...(process.getuid?.() === 0 ? ['--no-sandbox'] : []),
        '--use-angle=swiftshader',
        '--enable-unsafe-swiftshader',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--no-first-run',
      ],
    },
  },
});
