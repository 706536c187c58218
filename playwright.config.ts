import { defineConfig } from '@playwright/test';

/** Runs side by side have folders of their own. */
const RESULTS = process.env.GLADE_RESULTS ?? 'test-results';

/** Drives the built application in Debian's headless Chromium. `./glade test` starts it and names its address. */
export default defineConfig({
  testDir: 'e2e',
  outputDir: RESULTS,
  workers: 1,
  // Waits are for states; these limits only end what will never come, on a machine many times busier too.
  timeout: 900_000,
  expect: { timeout: 90_000 },
  reporter: [['line'], ['json', { outputFile: `${RESULTS}/report.json` }]],
  use: {
    baseURL: process.env.GLADE_URL ?? 'http://localhost:8420',
    viewport: { width: 1280, height: 800 },
    // Recording costs a tenth of the run; what failed is run again with it.
    trace: process.env.GLADE_TRACE ? 'retain-on-failure' : 'off',
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: process.env.GLADE_CHROMIUM ?? '/usr/bin/chromium-headless-shell',
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
});
