import { defineConfig } from '@playwright/test';
import {
  STUDIO_COUNT,
  studioFolder,
  studioOrigin,
  studioPort,
} from './tests/browser/support/studios';

/** Begun first: whoever comes last must not be the one who takes longest. */
const LONGEST = [
  'findings',
  'library',
  'models',
  'swatches',
  'two-ways',
  'accessible',
  'agreement',
];
const longest = LONGEST.map((name) => `${name}.spec.ts`);
const always = { testDir: './tests/browser', fullyParallel: true };
// The README's pictures are made when they are asked for: `npm run pictures`.
const onDemand = process.env['REFRESH_PICTURES'] ? [] : ['pictures.spec.ts'];

export default defineConfig({
  projects: [
    { ...always, name: 'long', testMatch: longest },
    { ...always, name: 'other', testIgnore: [...longest, ...onDemand] },
  ],
  outputDir: './test-results/artifacts',
  timeout: 240_000,
  expect: { timeout: 30_000 },
  workers: STUDIO_COUNT,
  retries: process.env['CI'] ? 1 : 0,
  reporter: [['list'], ['json', { outputFile: 'test-results/browser.json' }]],
  use: {
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
  // The real start command, once for each worker, on copies of one demo.
  webServer: Array.from({ length: STUDIO_COUNT }, (_, index) => ({
    command: [
      'node --import tsx scripts/check/studio.ts',
      studioFolder(index),
      studioPort(index),
    ].join(' '),
    url: `${studioOrigin(index)}/sign-in`,
    reuseExistingServer: false,
    timeout: 400_000,
    stdout: 'pipe' as const,
    gracefulShutdown: { signal: 'SIGTERM' as const, timeout: 15_000 },
  })),
});
