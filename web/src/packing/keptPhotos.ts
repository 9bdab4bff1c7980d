import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import { useEffect, useSyncExternalStore } from 'react';
import { v7 } from 'uuid';
import { Refused } from '../api.js';
import { sendPhoto } from './api.js';

interface Kept {
  id: string;
  session: string;
  at: string;
  picture: Blob;
}
interface Schema extends DBSchema {
  photos: { key: string; value: Kept };
}

/** What waits is tried again so often. */
const AGAIN_MS = 20_000;

let opened: Promise<IDBPDatabase<Schema>> | null = null;
const database = () => {
  opened ??= openDB<Schema>('auk-photos', 1, {
    upgrade: db => void db.createObjectStore('photos', { keyPath: 'id' }),
  });
  return opened;
};

let waiting = 0;
const watchers = new Set<() => void>();
function counted(n: number): void {
  waiting = n;
  for (const w of watchers) w();
}

/** Keeps a picture on this device until the server has it. Fails where the device has no room for it. */
export async function keepPhoto(session: string, picture: Blob): Promise<void> {
  await (await database()).put('photos', { id: v7(), session, at: new Date().toISOString(), picture });
  void sendKept().catch(() => undefined);
}

/** Sends what is kept, one after the other, by one tab; what the server refuses for good is not kept any longer. */
export async function sendKept(): Promise<void> {
  await navigator.locks.request('auk-photos', async () => {
    const db = await database();
    for (const photo of await db.getAll('photos')) {
      try {
        await sendPhoto(photo.session, photo.id, photo.at, photo.picture);
      } catch (error) {
        // Signed out, or the server is busy: it is sent later. Only what can never be taken is let go.
        if (!(error instanceof Refused) || error.problem.retry !== 'never') break;
      }
      await db.delete('photos', photo.id);
    }
    counted(await db.count('photos'));
  });
}

/** How many pictures wait on this device; they are sent as soon as that can be. */
export function useKeptPhotos(): number {
  useEffect(() => {
    const go = () => void sendKept().catch(() => undefined);
    go();
    const timer = setInterval(go, AGAIN_MS);
    window.addEventListener('online', go);
    return () => {
      clearInterval(timer);
      window.removeEventListener('online', go);
    };
  }, []);
  return useSyncExternalStore(
    watch => {
      watchers.add(watch);
      return () => watchers.delete(watch);
    },
    () => waiting,
  );
}
