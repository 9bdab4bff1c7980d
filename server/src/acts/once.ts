import type { Tx } from '../database/db.js';
import { TooLate } from '../http/problem.js';
import { ActKey } from './actKey.entity.js';
import { refuseTooOld } from './age.js';

/**
 * Does an act once. The same key again (a double click, an answer that was lost) gets the answer of the first time and changes
 * nothing; while the first is still under way it is waited for.
 */
export async function once<T>(tx: Tx, key: string, kind: string, act: () => Promise<T>): Promise<T> {
  refuseTooOld(key, tx.at);
  const keys = tx.of(ActKey);
  const added = await keys
    .createQueryBuilder()
    .insert()
    .orIgnore()
    .values({ id: key, at: tx.at, personId: tx.personId, kind })
    .execute();
  if (added.raw.affectedRows === 0) return answered<T>(tx, key, kind);
  const answer = await act();
  await keys.update(key, { answer: (answer ?? null) as never });
  return answer;
}

async function answered<T>(tx: Tx, key: string, kind: string): Promise<T> {
  const known = await tx.of(ActKey).findOneBy({ id: key });
  if (known?.kind !== kind)
    throw new TooLate('The key of this act was used for another one.', 'Open the page anew and do it again.');
  return known.answer as T;
}
