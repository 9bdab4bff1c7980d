import type { KeptQuestion } from '@auk/contract';
import { OrderFilter } from '@auk/contract';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, fromJson, newId } from '../database/db.js';
import { NotHere } from '../http/problem.js';
import { OrderListQueries } from './list.queries.js';

/** What a person keeps for themselves at the order desk: questions, columns. */
@Injectable()
export class DeskService {
  constructor(
    private readonly db: Db,
    private readonly lists: OrderListQueries,
  ) {}

  /** The person's kept questions, each with how many orders it finds now. */
  async questions(personId: string, now: Date): Promise<KeptQuestion[]> {
    const rows = await this.db.rows<{ id: string; name: string; question: string }>(
      'SELECT id, name, question FROM keptQuestion WHERE personId = ? ORDER BY name',
      [personId],
    );
    return Promise.all(
      rows.map(async r => {
        const filter = OrderFilter.safeParse(Object.fromEntries(new URLSearchParams(r.question)));
        return {
          ...r,
          count: filter.success ? await this.lists.countOf(filter.data, now) : { n: 0, over: false },
        };
      }),
    );
  }

  /** Keeps a question under a name; the same name again replaces it. */
  keep(name: string, question: string, doer: Doer): Promise<void> {
    return this.db.tx(doer, tx =>
      tx.insert(
        'keptQuestion',
        [{ id: newId(), personId: doer.personId, name, question, at: doer.at }],
        'ON DUPLICATE KEY UPDATE question = VALUES(question), at = VALUES(at)',
      ),
    );
  }

  async forget(id: string, doer: Doer): Promise<void> {
    if (
      (await this.db.run('DELETE FROM keptQuestion WHERE id = ? AND personId = ?', [id, doer.personId])) === 0
    )
      throw new NotHere('That question');
  }

  async preference(personId: string, name: string): Promise<unknown> {
    const row = await this.db.one<{ value: string }>(
      'SELECT value FROM preference WHERE personId = ? AND name = ?',
      [personId, name],
    );
    return row ? fromJson(row.value) : null;
  }

  setPreference(name: string, value: unknown, doer: Doer): Promise<void> {
    return this.db.tx(doer, tx =>
      tx.insert(
        'preference',
        [{ personId: doer.personId, name, value: JSON.stringify(value ?? null) }],
        'ON DUPLICATE KEY UPDATE value = VALUES(value)',
      ),
    );
  }
}
