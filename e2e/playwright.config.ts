import { defineConfig } from '@playwright/test';
import { CHROMIUM } from './chromium.mjs';

/**
 * Journeys through the real interface; the server is started by scripts/test.sh. Those that act go one after the
 * other, for all share one house; those that only look come last, two at once.
 */
export default defineConfig({
  testDir: '.',
  testMatch: '*.spec.ts',
  workers: 2,
  retries: 0,
  projects: [
    { name: 'acting', testIgnore: 'views.spec.ts', workers: 1 },
    { name: 'looking', testMatch: 'views.spec.ts', fullyParallel: true, dependencies: ['acting'] },
  ],
  // Generous, because a machine that is shared may be slow for a while; nothing waits longer than it must.
  timeout: 240_000,
  expect: { timeout: 45_000 },
  reporter: [['list'], ['json']],
  use: {
    baseURL: `http://127.0.0.1:${process.env.AUK_PORT}`,
    viewport: { width: 1280, height: 800 },
    // What is kept for work without a network has tests of its own; elsewhere each page is asked for anew.
    serviceWorkers: 'block',
    launchOptions: {
      ...CHROMIUM,
      args: [
        ...CHROMIUM.args,
        '--disable-quic',
        '--no-first-run',
        '--autoplay-policy=no-user-gesture-required',
      ],
    },
  },
});
