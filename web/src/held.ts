import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import { Refused, Unreached } from './api.js';

interface Schema extends DBSchema {
  answers: { key: string; value: unknown };
}

const SIGNED_OUT = 401;
const GONE = 404;

/** Opened when it is first needed; null where the browser has no room for it, and then nothing is held. */
let opened: Promise<IDBPDatabase<Schema> | null> | null = null;
const database = () => {
  opened ??= openDB<Schema>('auk-held', 1, { upgrade: db => void db.createObjectStore('answers') }).catch(
    () => null,
  );
  return opened;
};

/** Holds an answer for when the server cannot be reached. */
export async function hold(key: string, value: unknown): Promise<void> {
  await (await database())?.put('answers', value, key).catch(() => undefined);
}

async function read<T>(key: string): Promise<T | undefined> {
  return (await (await database())?.get('answers', key).catch(() => undefined)) as T | undefined;
}

/** Asks; where the server cannot be reached, the answer of before counts, if this device holds it. */
export async function heldOr<T>(key: string, ask: () => Promise<T>): Promise<T> {
  try {
    const answer = await ask();
    await hold(key, answer);
    return answer;
  } catch (error) {
    if (error instanceof Refused && [SIGNED_OUT, GONE].includes(error.problem.status))
      await (await database())?.delete('answers', key);
    if (!(error instanceof Unreached)) throw error;
    const held = await read<T>(key);
    if (held === undefined) throw error;
    return held;
  }
}

/** Holds where a session of scans stands by the server's last word. */
export const holdState = (session: string, state: unknown): Promise<void> => hold(`state ${session}`, state);

/** The same for a session: as it was opened, or as it stood by the server's last word while it cannot be reached. */
export async function heldSession<T extends { state: unknown }>(
  key: string,
  ask: () => Promise<T>,
  sessionOf: (opened: T) => string,
): Promise<T> {
  let reached = true;
  const answer = await heldOr(key, () =>
    ask().catch((error: unknown) => {
      reached = false;
      throw error;
    }),
  );
  const session = sessionOf(answer);
  if (reached) {
    await holdState(session, answer.state);
    return answer;
  }
  const state = await read<T['state']>(`state ${session}`);
  return state === undefined ? answer : { ...answer, state };
}

/** Forgets all that is held: whoever signs out leaves nothing of it. */
export async function forgetHeld(): Promise<void> {
  await (await database())?.clear('answers');
}
