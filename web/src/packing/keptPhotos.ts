import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import { useEffect, useSyncExternalStore } from 'react';
import { v7 } from 'uuid';
import { Refused } from '../api.js';
import { sendPhoto } from './api.js';

interface Kept {
  id: string;
  session: string;
  at: string;
  /** Who took it. */
  maker: string;
  picture: Blob;
}
interface Schema extends DBSchema {
  photos: { key: string; value: Kept };
}

/** What the server says of a picture that it can never take: it is none, its order is forgotten, it is too large. */
const NEVER = new Set([400, 404, 413]);
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
export async function keepPhoto(session: string, maker: string, picture: Blob): Promise<void> {
  const photo = { id: v7(), session, at: new Date().toISOString(), maker, picture };
  await (await database()).put('photos', photo);
  void sendKept().catch(() => undefined);
}

/** Sends what is kept, one after the other, by one tab. */
export async function sendKept(): Promise<void> {
  await navigator.locks.request('auk-photos', async () => {
    const db = await database();
    for (const photo of await db.getAll('photos')) {
      if (!(await isOver(() => sendPhoto(photo)))) break;
      await db.delete('photos', photo.id);
    }
    counted(await db.count('photos'));
  });
}

/** True when the server has a picture, or can never take it. Whoever is signed in now may lack the right to send it: then it stays. */
export async function isOver(send: () => Promise<void>): Promise<boolean> {
  try {
    await send();
    return true;
  } catch (error) {
    return error instanceof Refused && NEVER.has(error.problem.status);
  }
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
