import { defineConfig } from '@playwright/test';

const port = Number(process.env['TEST_PORT'] ?? 4317);
export default defineConfig({
  testDir: './tests/browser',
  outputDir: './test-results/artifacts',
  // The README's pictures are made when they are asked for: `npm run pictures`.
  testIgnore: process.env['REFRESH_PICTURES'] ? [] : ['pictures.spec.ts'],
  timeout: 240_000,
  expect: { timeout: 30_000 },
  workers: 1,
  fullyParallel: false,
  retries: process.env['CI'] ? 1 : 0,
  reporter: [['list'], ['json', { outputFile: 'test-results/browser.json' }]],
  use: {
    baseURL: `http://127.0.0.1:${String(port)}`,
    viewport: { width: 1280, height: 800 },
    actionTimeout: 30_000,
    launchOptions: {
      executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--enable-unsafe-swiftshader',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
  // The real start command, on a database of its own.
  webServer: {
    command: 'rm -rf .data/check && BRIGHT_LOOM_DATA="$PWD/.data/check" ./start --throw-away',
    url: `http://127.0.0.1:${String(port)}/sign-in`,
    reuseExistingServer: false,
    timeout: 300_000,
    env: {
      PORT: String(port),
      BRIGHT_LOOM_CHECK_ANSWERS: 'yes',
      NEXT_PUBLIC_TEST_HOOKS: 'yes',
    },
    stdout: 'pipe',
    gracefulShutdown: { signal: 'SIGTERM', timeout: 15_000 },
  },
});
