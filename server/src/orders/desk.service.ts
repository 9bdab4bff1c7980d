import type { KeptQuestion } from '@auk/contract';
import { OrderFilter } from '@auk/contract';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, newId } from '../database/db.js';
import { NotHere } from '../http/problem.js';
import { KeptQuestion as KeptQuestionEntity } from './keptQuestion.entity.js';
import { OrderListQueries } from './list.queries.js';
import { Preference } from './preference.entity.js';

/** What a person keeps for themselves at the order desk: questions, columns. */
@Injectable()
export class DeskService {
  constructor(
    private readonly db: Db,
    private readonly lists: OrderListQueries,
  ) {}

  /** The person's kept questions, each with how many orders it finds now. */
  async questions(personId: string, now: Date): Promise<KeptQuestion[]> {
    const rows = await this.db.of(KeptQuestionEntity).find({
      where: { personId },
      select: { id: true, name: true, question: true },
      order: { name: 'ASC' },
    });
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
      tx.upsert(
        KeptQuestionEntity,
        [{ id: newId(), personId: doer.personId, name, question, at: doer.at }],
        ['question', 'at'],
      ),
    );
  }

  async forget(id: string, doer: Doer): Promise<void> {
    const { affected } = await this.db.of(KeptQuestionEntity).delete({ id, personId: doer.personId! });
    if (!affected) throw new NotHere('That question');
  }

  async preference(personId: string, name: string): Promise<unknown> {
    const row = await this.db.of(Preference).findOne({ where: { personId, name }, select: { value: true } });
    return row?.value ?? null;
  }

  setPreference(name: string, value: unknown, doer: Doer): Promise<void> {
    return this.db.tx(doer, tx =>
      tx.upsert(
        Preference,
        [{ personId: doer.personId, name, value: JSON.stringify(value ?? null) }],
        ['value'],
      ),
    );
  }
}
