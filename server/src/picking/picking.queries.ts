import type { ListRow, ListStop, ListView, Picker } from '@auk/contract';
import { Injectable } from '@nestjs/common';
import { Db } from '../database/db.js';
import { NotHere } from '../http/problem.js';

interface ListRecord extends Omit<ListRow, 'no' | 'metres' | 'createdAt' | 'cutOff'> {
  no: number;
  distance: number;
  createdAt: Date;
  cutOff: Date | null;
}

const ROW = `SELECT l.id, l.no, l.state, l.distance, l.createdAt, COUNT(DISTINCT s.orderId) AS orders, COUNT(s.id) AS stops, COALESCE(SUM(s.quantity), 0) AS units,
  (SELECT pe.name FROM scanSession x JOIN person pe ON pe.id = x.personId WHERE x.listId = l.id) AS picker,
  (SELECT COALESCE(SUM(m.quantity * IF(m.why = 'pick', 1, -1)), 0) FROM pickStop q JOIN stockMove m ON m.causeId = q.id AND m.why IN ('pick', 'put back') WHERE q.listId = l.id) AS taken,
  (SELECT fo.name FROM person fo WHERE fo.id = l.forId AND fo.active) AS \`for\`,
  (SELECT MIN(d.cutOff) FROM pickStop z JOIN orders o ON o.id = z.orderId JOIN departure d ON d.id = o.departureId WHERE z.listId = l.id) AS cutOff,
  0 AS missing
  FROM pickList l LEFT JOIN pickStop s ON s.listId = l.id`;

/** Lists on the page. */
const SHOWN = 60;

/** Reads of pick lists. */
@Injectable()
export class PickingQueries {
  constructor(private readonly db: Db) {}

  /** Lists that are not done, then the newest done ones. */
  async lists(): Promise<ListRow[]> {
    const rows = await this.db.rows<ListRecord>(
      `${ROW} JOIN ((SELECT id FROM pickList WHERE state IN ('released', 'picking') ORDER BY no DESC LIMIT ${SHOWN}) UNION (SELECT id FROM pickList WHERE state = 'done' ORDER BY no DESC LIMIT ${SHOWN})) w ON w.id = l.id
       GROUP BY l.id ORDER BY l.state = 'done', l.no DESC LIMIT ${SHOWN}`,
    );
    return rows.map(toRow);
  }

  /** Who may be handed a list. */
  pickers(): Promise<Picker[]> {
    return this.db.rows<Picker>('SELECT id, name FROM person WHERE active ORDER BY name');
  }

  /** Lists with their orders, as they are met on the walk. */
  async withOrders(nos: readonly number[]): Promise<{ view: ListView; orderIds: string[] }[]> {
    const views = await Promise.all(nos.map(no => this.list(no)));
    const rows = await this.db.rows<{ listId: string; orderId: string }>(
      'SELECT listId, orderId FROM pickStop WHERE listId IN (?) GROUP BY listId, orderId ORDER BY MIN(seq)',
      [views.map(v => v.id)],
    );
    return views.map(view => ({
      view,
      orderIds: rows.filter(r => r.listId === view.id).map(r => r.orderId),
    }));
  }

  async list(no: number): Promise<ListView> {
    const row = (await this.db.rows<ListRecord>(`${ROW} WHERE l.no = ? GROUP BY l.id`, [no]))[0];
    if (!row) throw new NotHere(`The pick list PL-${no}`);
    const stops = await this.db.rows<Omit<ListStop, 'order'> & { order: number }>(
      `SELECT s.seq, p.code AS place, p.aisle, p.along, pr.sku, pr.name, s.quantity, t.mark AS tote, o.no AS \`order\`,
         COALESCE((SELECT SUM(m.quantity * IF(m.why = 'pick', 1, -1)) FROM stockMove m WHERE m.causeId = s.id AND m.why IN ('pick', 'put back')), 0) AS taken
       FROM pickStop s JOIN place p ON p.id = s.placeId JOIN product pr ON pr.id = s.productId JOIN orders o ON o.id = s.orderId LEFT JOIN place t ON t.id = s.toteId
       WHERE s.listId = ? ORDER BY s.seq`,
      [row.id],
    );
    const by = await this.db.rows<ListView['by'][number]>(
      `SELECT p.name, COUNT(*) AS scans, COUNT(DISTINCT e.device) AS devices FROM scanSession x JOIN scanEvent e ON e.sessionId = x.id JOIN person p ON p.id = e.personId
       WHERE x.listId = ? GROUP BY p.id ORDER BY MIN(e.seq)`,
      [row.id],
    );
    return { ...toRow(row), rows: stops.map(s => ({ ...s, order: `OR-${s.order}` })), by };
  }
}

function toRow({ distance, ...r }: ListRecord): ListRow {
  return {
    ...r,
    no: `PL-${r.no}`,
    metres: Math.round(distance / 10_000),
    createdAt: r.createdAt.toISOString(),
    cutOff: r.cutOff?.toISOString() ?? null,
  };
}
