import {
  type BookDifferences,
  type BookVersionView,
  CARRIED_OUT,
  type MissingName,
  type RuleBookFile,
  type RuleBookView,
  type RuleProof,
} from '@auk/contract';
import {
  ACTIONS,
  analyseBook,
  bookDifferences,
  checkBook,
  EMPTY_BOOK,
  namedIn,
  onlyDivides,
  type RuleBook,
  rulesOf,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, fromJson, isDuplicate, type Sql } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden, NotHere, TooLate } from '../http/problem.js';
import { actedCounts, type BookRow, bookVersions, lastBook } from './books.queries.js';
import { RuleGrounds } from './grounds.service.js';
import { RuleNames } from './names.service.js';
import { proofSays } from './proofs.js';
import { RuleBookRow } from './ruleBook.entity.js';

/** Trials that a page waits for; what they do not prove is said to be unknown. */
const TRIALS_SHOWN = 1_000;

/** A book as it runs: its number and what it says. */
export interface RunningBook {
  no: number;
  book: RuleBook;
}

/** The rule book in its versions. The last is the one that runs; an older one comes back as a new version. */
@Injectable()
export class RuleBooks {
  constructor(
    private readonly db: Db,
    private readonly grounds: RuleGrounds,
    private readonly names: RuleNames,
    private readonly house: HouseService,
  ) {}

  /** The book that runs; an empty one, number 0, while nobody has written any. */
  async running(sql: Sql): Promise<RunningBook> {
    const row = await lastBook(sql);
    return row ? { no: row.no, book: fromJson<RuleBook>(row.book) } : { no: 0, book: EMPTY_BOOK };
  }

  async version(sql: Sql, no: number): Promise<RunningBook> {
    if (no === 0) return { no: 0, book: EMPTY_BOOK };
    const row = await sql.of(RuleBookRow).findOneBy({ no });
    if (!row) throw new NotHere(`Version ${no} of the rule book`, 'Choose one of the versions listed.');
    return { no, book: fromJson<RuleBook>(row.book) };
  }

  /** A version with what can be proved of its rules, and what they name that is not there any more. */
  async view(no: number | null): Promise<RuleBookView> {
    const { no: shown, book } = no === null ? await this.running(this.db) : await this.version(this.db, no);
    const currency = await this.grounds.currency(this.db);
    const acted = shown === 0 ? new Map<string, number>() : await this.acted(shown, book);
    return {
      no: shown,
      book,
      currency,
      proofs: await this.proofs(book),
      missing: await this.missing(book),
      acted: Object.fromEntries(acted),
    };
  }

  /** On how many orders each rule has done something; of one that is about lines alone, where it met some. */
  private async acted(no: number, book: RuleBook): Promise<Map<string, number>> {
    const counts = async (how: Parameters<typeof actedCounts>[2]) =>
      new Map((await actedCounts(this.db, no, how)).map(a => [a.ruleId, a.orders]));
    const [acted, deeds] = [await counts('$.acted[*]'), await counts('$.deeds[*].by')];
    for (const rule of rulesOf(book)) if (onlyDivides(rule)) acted.set(rule.id, deeds.get(rule.id) ?? 0);
    return acted;
  }

  async proofs(book: RuleBook): Promise<RuleProof[]> {
    const { currency, country: home } = await this.house.warehouse(this.db);
    const templates = await this.grounds.templatesByName(this.db);
    return proofSays(book, analyseBook(book, currency, templates, { trials: TRIALS_SHOWN, home }));
  }

  /** What rules name that nobody has any more. It is told, and what it decides is passed over. */
  async missing(book: RuleBook): Promise<MissingName[]> {
    const known = await this.names.known();
    return namedIn(book).flatMap(({ rule, action, names }): MissingName[] => {
      const of = known.get(action);
      if (!of || of.names.has(names) || names === '*') return [];
      return [
        {
          rule: rule.id,
          says: `Rule ${rule.no} “${rule.name}” names ${of.what} “${names}”, which is not there.`,
          cure: `Choose another in rule ${rule.no}, or take it out.`,
        },
      ];
    });
  }

  /** A version as a file. */
  async file(no: number): Promise<RuleBookFile> {
    const { book } = await this.version(this.db, no);
    return { form: 'rule book 1', ...book } as RuleBookFile;
  }

  async versions(): Promise<BookVersionView[]> {
    const rows = await bookVersions(this.db);
    return rows.map((r: BookRow) => ({
      no: r.no,
      note: r.note,
      by: r.person,
      at: r.at.toISOString(),
      rules: rulesOf(fromJson<RuleBook>(r.book)).length,
    }));
  }

  async differences(from: number, to: number, sql: Sql = this.db): Promise<BookDifferences> {
    const [a, b] = [await this.version(sql, from), await this.version(sql, to)];
    return { from, to, differences: bookDifferences(a.book, b.book) };
  }

  /**
   * Saves a book as the next version. It was made from the version that was looked at (`base`): when another has been saved meanwhile, it
   * is refused with what that one changed, and whoever saves decides again.
   */
  async save(base: number, book: RuleBook, note: string, doer: Doer): Promise<{ no: number }> {
    await this.refuseWrong(book);
    try {
      return await this.db.tx(doer, async tx => {
        const now = await this.running(tx);
        if (now.no !== base) throw await this.changedMeanwhile(tx, base, now);
        if (bookDifferences(now.book, book).length === 0 && JSON.stringify(now.book) === JSON.stringify(book))
          return { no: now.no };
        const no = now.no + 1;
        await tx.insert(RuleBookRow, [
          { no, book: JSON.stringify(book), note, at: tx.at, personId: tx.personId },
        ]);
        await tx.tell('rules', String(no));
        return { no };
      });
    } catch (error) {
      if (isDuplicate(error)) throw await this.changedMeanwhile(this.db, base, await this.running(this.db));
      throw error;
    }
  }

  /** Goes back to an older version, as a new one. */
  async goBack(no: number, base: number, doer: Doer): Promise<{ no: number }> {
    const { book } = await this.version(this.db, no);
    return this.save(base, book, `Version ${no} again.`, doer);
  }

  private async changedMeanwhile(sql: Sql, base: number, now: RunningBook): Promise<TooLate> {
    const { differences } = await this.differences(base, now.no, sql);
    const row = (await bookVersions(sql)).find(v => v.no === now.no);
    return new TooLate(
      `${row?.person ?? 'Somebody'} saved version ${now.no} while you worked on version ${base}: ${differences.length} rules differ.`,
      'Look at what changed, then save over it or take it over.',
      { no: now.no, differences },
    );
  }

  /** A book that says nonsense is not saved at all; the first fault is told in words, all of them beside it. */
  private async refuseWrong(book: RuleBook): Promise<void> {
    const problems = checkBook(book, await this.grounds.currency(this.db));
    const later = rulesOf(book).flatMap(r =>
      r.do
        .filter(a => !CARRIED_OUT.has(a.do))
        .map(a => ({
          rule: r.id,
          no: r.no,
          where: 'do',
          says: `wants to “${ACTIONS[a.do].words}”, which Auk cannot do yet`,
          cure: 'Take it out.',
        })),
    );
    const all = [...problems, ...later];
    const [first] = all;
    if (!first) return;
    const name = rulesOf(book).find(r => r.no === first.no)?.name ?? '';
    throw new Forbidden(`Rule ${first.no} “${name}” ${first.says}.`, first.cure, { problems: all });
  }
}
