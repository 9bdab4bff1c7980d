import { type BrowserContext, test as plain } from '@playwright/test';

/** What one journey keeps in the browser and the next must not find; compiled scripts may stay. */
const KEPT = 'local_storage,indexeddb,cache_storage,file_systems';

/**
 * Journeys of one worker share a browser profile, whose scripts are read and compiled once and not for each of them. Each begins
 * with a new page and with nothing kept, signed in or put in the way by the one before.
 */
export const test = plain.extend<object, { profile: BrowserContext }>({
  profile: [
    async ({ browser }, use, worker) => {
      const { baseURL, viewport, serviceWorkers } = worker.project.use;
      const profile = await browser.newContext({ baseURL, viewport, serviceWorkers });
      await use(profile);
      await profile.close();
    },
    { scope: 'worker' },
  ],
  context: async ({ profile, baseURL }, use) => {
    await use(profile);
    await Promise.all(profile.pages().map(page => page.close()));
    await profile.unrouteAll({ behavior: 'ignoreErrors' });
    await profile.clearCookies();
    await profile.clearPermissions();
    const page = await profile.newPage();
    const wire = await profile.newCDPSession(page);
    await wire.send('Storage.clearDataForOrigin', { origin: baseURL!, storageTypes: KEPT });
    await page.close();
  },
});
