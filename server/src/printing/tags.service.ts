import type { PlaceQuery } from '@auk/contract';
import { Injectable } from '@nestjs/common';
import { Db } from '../database/db.js';
import { CatalogService } from '../products/products.module.js';
import { placesFound, totesByCode, Walls } from '../stock/stock.module.js';
import { drawTags, type TagForm } from './tags.js';

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
    const rows = await placesFound(this.db, { words, kind, after: undefined }, MOST);
    return drawTags(
      rows.map(r => ({ code: r.code, words: r.code, small: r.zone })),
      form,
    );
  }

  /** Labels of all totes and trolleys: the mark large, the code under it. */
  async totes(form: TagForm): Promise<Buffer> {
    const rows = await totesByCode(this.db, MOST);
    return drawTags(
      rows.map(t => ({ code: t.code, words: t.mark ?? t.code, small: t.colour ?? '' })),
      form,
    );
  }

  /** Labels of the cells of all put walls. */
  async cells(form: TagForm): Promise<Buffer> {
    const walls = await this.walls.list();
    return drawTags(
      walls.flatMap(w => w.cells.map(c => ({ code: c.code, words: c.mark, small: `wall ${w.wall}` }))),
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
