import type { PlaceQuery } from '@auk/contract';
import { Injectable } from '@nestjs/common';
import { Db } from '../database/db.js';
import { Forbidden, NotHere } from '../http/problem.js';
import { CatalogService } from '../products/products.module.js';
import { placesFound, totesByCode, Walls } from '../stock/stock.module.js';
import { drawTags, type TagForm } from './tags.js';

/** So many labels are printed at once. */
const MOST = 600;

/** Labels of places and products, for shelves and goods. */
@Injectable()
export class TagPrinting {
  constructor(
    private readonly db: Db,
    private readonly catalog: CatalogService,
    private readonly walls: Walls,
  ) {}

  /** Labels of the places that a question of the list of places finds, in the order of their codes. */
  async places(words: string, kind: PlaceQuery['kind'], form: TagForm): Promise<Buffer> {
    const rows = await placesFound(this.db, { words, kind, after: undefined }, MOST + 1);
    return drawTags(
      notTooMany(rows).map(r => ({ code: r.code, words: r.code, small: r.zone })),
      form,
    );
  }

  /** Labels of totes and trolleys, of all or from one code to another: the mark large, the code under it. */
  async totes({ form, from, to }: { form: TagForm; from: string; to: string }): Promise<Buffer> {
    const rows = (await totesByCode(this.db)).filter(t => t.code >= from && (to === '' || t.code <= to));
    return drawTags(
      notTooMany(rows).map(t => ({ code: t.code, words: t.mark ?? t.code, small: t.colour ?? '' })),
      form,
    );
  }

  /** Labels of the cells of a put wall. */
  async cells(wall: string, form: TagForm): Promise<Buffer> {
    const cells = await this.walls.cells(this.db, wall);
    if (cells.length === 0) throw new NotHere(`The put wall ${wall}`, 'Look at the list of walls.');
    return drawTags(
      cells.map(c => ({ code: c.code, words: c.mark!, small: `wall ${wall}` })),
      form,
    );
  }

  /** A badge to wear: the code that is scanned at sign-in, the name large. */
  badge(person: { name: string; badge: string; role: string }): Promise<Buffer> {
    return drawTags([{ code: person.badge, words: person.name, small: person.role }], 'thermal');
  }

  /** So many labels of a product, with its own code where it has one, else its SKU. */
  async product(sku: string, count: number, form: TagForm): Promise<Buffer> {
    const row = await this.catalog.bySku(sku);
    const code = row.codes.find(c => c.units === 1)?.code.replace(/^0(?=\d{13}$)/, '') ?? row.sku;
    return drawTags(
      Array.from({ length: count }, () => ({ code, words: row.name, small: row.sku })),
      form,
    );
  }
}

/** What is asked for is printed whole or not at all. */
function notTooMany<T>(rows: readonly T[]): readonly T[] {
  if (rows.length <= MOST) return rows;
  throw new Forbidden(
    `More than ${MOST} labels are not printed at once.`,
    'Narrow down what is printed, such as to one aisle.',
  );
}
