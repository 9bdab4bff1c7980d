import {
  type BoxesView,
  type BoxIn,
  FIRST_GUESS,
  FIRST_PACKING_CHOICES,
  type Guess,
  type PackingChoices,
} from '@auk/contract';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, type Sql } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { Box } from './box.entity.js';

const CHOICES = 'packingChoices';
const GUESSES = 'guesses';

/** The kinds of boxes of the house, in the order in which they are preferred. */
@Injectable()
export class Boxes {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
  ) {}

  async all(): Promise<BoxesView> {
    const rows = await this.db.of(Box).find({ order: { position: 'ASC', code: 'ASC' } });
    const { currency } = await this.house.warehouse(this.db);
    return {
      boxes: rows.map(({ position: _, retiredAt, ...b }) => ({ ...b, retired: retiredAt !== null })),
      currency,
      choices: await this.choices(this.db),
      guesses: await this.guesses(this.db),
    };
  }

  /** How boxes are proposed and weights are judged. */
  async choices(sql: Sql): Promise<PackingChoices> {
    return {
      ...FIRST_PACKING_CHOICES,
      ...(await this.house.setting<Partial<PackingChoices>>(sql, CHOICES, {})),
    };
  }

  /** What products without size or weight count as, by their category. */
  guesses(sql: Sql): Promise<Guess[]> {
    return this.house.setting<Guess[]>(sql, GUESSES, [FIRST_GUESS]);
  }

  /** Keeps the guesses; a category has one, and what no category fits always has one too. */
  async guess(guesses: readonly Guess[], doer: Doer): Promise<void> {
    const by = new Map([FIRST_GUESS, ...guesses].map(g => [g.category.toLowerCase(), g]));
    await this.db.tx(doer, async tx => {
      await this.house.set(tx, GUESSES, [...by.values()]);
      await tx.tell('boxes', 'guesses');
    });
  }

  async choose(choices: PackingChoices, doer: Doer): Promise<void> {
    await this.db.tx(doer, async tx => {
      await this.house.set(tx, CHOICES, choices);
      await tx.tell('boxes', 'choices');
    });
  }

  /** Keeps a box under its code; one with a new code is preferred least. A retired one is proposed no more. */
  async save({ retired, ...box }: BoxIn, doer: Doer): Promise<void> {
    await this.db.tx(doer, async tx => {
      const known = await tx
        .of(Box)
        .findOne({ where: { code: box.code }, lock: { mode: 'pessimistic_write' } });
      const retiredAt = retired ? (known?.retiredAt ?? tx.at) : null;
      // Two may add the same one at once: the second changes what the first has added.
      const position = known?.position ?? (await tx.of(Box).count()) + 1;
      await tx.of(Box).upsert({ ...box, retiredAt, position }, ['code']);
      await tx.tell('boxes', box.code);
    });
  }

  /** Puts boxes into an order; what is not named keeps its place after them. */
  async arrange(codes: readonly string[], doer: Doer): Promise<void> {
    await this.db.tx(doer, async tx => {
      const rows = await tx
        .of(Box)
        .find({ order: { position: 'ASC', code: 'ASC' }, lock: { mode: 'pessimistic_write' } });
      const known = new Set(rows.map(r => r.code));
      const named = [...new Set(codes)].filter(c => known.has(c));
      const order = [...named, ...rows.map(r => r.code).filter(c => !named.includes(c))];
      for (const [i, code] of order.entries()) await tx.of(Box).update(code, { position: i + 1 });
      await tx.tell('boxes', 'order');
    });
  }
}
