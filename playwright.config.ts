import { defineConfig } from '@playwright/test';

const port = 4310;

export default defineConfig({
  testDir: 'tests/e2e',
  outputDir: 'test-results/browser',
  workers: 1,
  timeout: 120_000,
  expect: { timeout: 15_000 },
  reporter: [['list'], ['json', { outputFile: 'test-results/playwright.json' }]],
  use: {
    baseURL: `http://localhost:${port}`,
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: ['--no-sandbox', '--host-resolver-rules=MAP * ~NOTFOUND, EXCLUDE localhost, EXCLUDE 127.0.0.1'],
    },
    trace: { mode: 'retain-on-failure', screenshots: false },
  },
  webServer: {
    command: `node node_modules/next/dist/bin/next start -H 127.0.0.1 -p ${port} --keepAliveTimeout 60000`,
    url: `http://localhost:${port}/scan`,
    reuseExistingServer: false,
  },
});
