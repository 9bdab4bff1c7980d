import { compileBook, EMPTY_BOOK, type RuleBook, type Ruled, runBook } from '@auk/core';
import { fromJson, type Sql } from '../database/db.js';
import { outcomesAfter } from './acting.queries.js';
import type { StoredGround } from './acting.service.js';
import { RuleBookRow } from './ruleBook.entity.js';

const AT_ONCE = 500;
/** Before all ids. */
const FIRST = '00000000-0000-0000-0000-000000000000';

/** An outcome that its own ground and book do not give again. */
export interface OtherOutcome {
  where: string;
  stored: string;
  derived: string;
}

/** Decides everything again that books decided, from what was stored with it, and lists what comes out otherwise. */
export async function otherOutcomes(sql: Sql): Promise<OtherOutcome[]> {
  const rows = await sql.of(RuleBookRow).find();
  const books = new Map(rows.map(b => [b.no, fromJson<RuleBook>(b.book)]));
  const found: OtherOutcome[] = [];
  for (let after = FIRST; ; ) {
    const outcomes = await outcomesAfter(sql, after, AT_ONCE);
    for (const { orderId, moment, button, bookNo, ground, ruled } of outcomes) {
      const { templates, currency, ...run } = fromJson<StoredGround>(ground);
      const book = books.get(bookNo) ?? EMPTY_BOOK;
      const known = new Map(Object.entries(templates));
      const derived = runBook(compileBook(book, moment, currency, known, button || null), run);
      const [a, b] = [JSON.stringify(fromJson<Ruled>(ruled)), JSON.stringify(derived)];
      if (a !== b) found.push({ where: `${orderId} at ${moment}, book ${bookNo}`, stored: a, derived: b });
    }
    const last = outcomes.at(-1);
    if (!last) return found;
    after = last.orderId;
  }
}
