import type { Tx } from './db.js';

/** True the first time an act's key is seen; it is kept with the act, so that a repeat (a double click, a lost answer) changes nothing. */
export async function firstTime(tx: Tx, key: string, kind: string): Promise<boolean> {
  const added = await tx.run('INSERT IGNORE INTO actKey (id, at, personId, kind) VALUES (?, ?, ?, ?)', [
    key,
    tx.at,
    tx.personId,
    kind,
  ]);
  return added > 0;
}
