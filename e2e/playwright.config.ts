import { execFileSync } from 'node:child_process';
import { defineConfig } from '@playwright/test';

const chromium = execFileSync('sh', ['-c', 'command -v chromium'], { encoding: 'utf8' }).trim();

/** Journeys through the real interface; the server is started by scripts/test.sh. One worker: all share one house. */
export default defineConfig({
  testDir: '.',
  testMatch: '*.spec.ts',
  workers: 1,
  retries: 0,
  // Generous, because a machine that is shared may be slow for a while; nothing waits longer than it must.
  timeout: 240_000,
  expect: { timeout: 45_000 },
  reporter: [['list'], ['json']],
  use: {
    baseURL: `http://127.0.0.1:${process.env.AUK_PORT}`,
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: chromium,
      chromiumSandbox: false,
      args: [
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--autoplay-policy=no-user-gesture-required',
      ],
    },
  },
});
