import { defineConfig } from '@playwright/test';
import { CHROMIUM } from './chromium.mjs';

/** Journeys that act in the first house; all others act in the second. */
const FIRST = ['desk', 'packing', 'front', 'stock'].map(name => `${name}.spec.ts`);

/**
 * Journeys through the real interface; the servers of two houses are started by scripts/test.sh. Those that act in one
 * house go one after the other; those that only look come last in the first. More than two browsers at once would make a scan
 * that is typed look like a person's.
 */
export default defineConfig({
  testDir: '.',
  testMatch: '*.spec.ts',
  workers: 1,
  retries: 0,
  projects: [
    { name: 'one', testMatch: FIRST },
    { name: 'two', testIgnore: [...FIRST, 'views.spec.ts'] },
    { name: 'looking', testMatch: 'views.spec.ts', dependencies: ['one'] },
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
