import { type ChildProcess, spawn } from 'node:child_process';
import { createHash, X509Certificate } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, expect, test } from '@playwright/test';

test.use({ serviceWorkers: 'allow' });

/** A port that nobody listens on. */
const freePort = () =>
  new Promise<number>(resolve => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number };
      server.close(() => resolve(port));
    });
  });

test('over TLS on the local network a phone has camera and offline start, and its sign-in travels over TLS alone', async ({
  launchOptions,
}) => {
  const folder = mkdtempSync(join(tmpdir(), 'auk-tls-'));
  const port = await freePort();
  // A second server of the same house, as npm start -- --lan begins one.
  const server: ChildProcess = spawn(process.execPath, ['server/dist/whole/main.js'], {
    cwd: join(import.meta.dirname, '..'),
    env: { ...process.env, AUK_PORT: String(port), AUK_LAN: 'yes', AUK_TLS_FOLDER: folder },
  });
  let said = '';
  server.stdout!.on('data', (d: Buffer) => {
    said += d.toString();
  });
  try {
    await expect.poll(() => said).toContain('ready');
    expect(said).toContain(`:${port}/authority.crt`);
    const shown = new X509Certificate(readFileSync(join(folder, 'server.crt')));
    const key = createHash('sha256')
      .update(shown.publicKey.export({ type: 'spki', format: 'der' }))
      .digest('base64');
    const browser = await chromium.launch({
      ...launchOptions,
      args: [...(launchOptions.args ?? []), `--ignore-certificate-errors-spki-list=${key}`],
    });
    const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
    const page = await context.newPage();
    await page.goto(`https://localhost:${port}/`);
    await page.getByLabel('Badge').fill('AB-1003');
    await page.getByLabel('PIN').fill('2468');
    await page.getByRole('button', { name: 'Sign in' }).click();
    await expect(page.getByText('Scan a pick list')).toBeVisible();
    expect(await page.evaluate(() => [isSecureContext, 'mediaDevices' in navigator])).toEqual([true, true]);
    expect((await context.cookies()).find(c => c.name === 'auk')).toMatchObject({
      secure: true,
      httpOnly: true,
    });
    await page.evaluate(() => navigator.serviceWorker.ready);
    server.kill('SIGTERM');
    await expect.poll(() => server.exitCode ?? server.signalCode).not.toBeNull();
    await page.reload();
    await expect(page.getByText('Scan a pick list')).toBeVisible();
    await expect(page.getByRole('button', { name: 'Wren Okoye picker' })).toBeVisible();
    await browser.close();
  } finally {
    server.kill('SIGTERM');
    rmSync(folder, { recursive: true, force: true });
  }
});
