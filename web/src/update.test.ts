import { afterAll, beforeEach, expect, test, vi } from 'vitest';

// Files of tests share their worker.
afterAll(() => {
  vi.unstubAllGlobals();
});

/** What the pages tell the worker, and what it tells them. */
const worker = vi.hoisted(() => ({
  hears: new Map<string, () => void>(),
  skipped: 0,
  pending: [] as unknown[],
}));
vi.mock('workbox-window', () => ({
  Workbox: class {
    addEventListener(name: string, hear: () => void) {
      worker.hears.set(name, hear);
    }
    messageSkipWaiting() {
      worker.skipped += 1;
    }
    register = async () => undefined;
    update = async () => undefined;
  },
}));
vi.mock('./scans/theOutbox.js', () => ({ outbox: { look: () => ({ pending: worker.pending }) } }));

const reload = vi.fn();

/** The pages begin: a new version has just come, or nothing has. */
async function begin() {
  vi.resetModules();
  vi.stubEnv('DEV', false);
  vi.stubGlobal('navigator', { serviceWorker: {} });
  vi.stubGlobal('document', { readyState: 'complete' });
  vi.stubGlobal('window', { location: { reload }, addEventListener: () => {} });
  vi.stubGlobal('setInterval', () => 0);
  const update = await import('./update.js');
  update.startOffline();
  return update;
}

beforeEach(() => {
  worker.hears.clear();
  worker.skipped = 0;
  worker.pending = [];
  reload.mockClear();
});

test('a new version waits until nothing is under way, then it is taken and this page alone begins anew', async () => {
  const { quietMoment } = await begin();
  worker.hears.get('waiting')!();
  // Somebody is within a list: no screen is quiet.
  expect(worker.skipped).toBe(0);
  quietMoment();
  expect(worker.skipped).toBe(1);
  expect(reload).not.toHaveBeenCalled();
  worker.hears.get('controlling')!();
  expect(reload).toHaveBeenCalledTimes(1);
  // It is taken once.
  quietMoment();
  expect(worker.skipped).toBe(1);
});

test('while a scan waits to be sent no new version is taken', async () => {
  const { quietMoment } = await begin();
  worker.hears.get('waiting')!();
  worker.pending = [{}];
  quietMoment();
  expect(worker.skipped).toBe(0);
  worker.pending = [];
  quietMoment();
  expect(worker.skipped).toBe(1);
});

test('without a new version a quiet moment is nothing', async () => {
  const { quietMoment } = await begin();
  quietMoment();
  expect([worker.skipped, reload.mock.calls.length]).toEqual([0, 0]);
});
