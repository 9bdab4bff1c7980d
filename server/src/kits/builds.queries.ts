import type { BuildPart, BuildRow, BuildView } from '@auk/contract';
import type { Stage } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, NONE } from '../database/db.js';
import { NotHere } from '../http/problem.js';
import { CatalogService } from '../products/products.module.js';
import { PROMISED_KINDS, PutAway } from '../stock/stock.module.js';
import type { BuildRecord } from './buildParts.js';
import { Builds } from './builds.service.js';

interface BuildRowRecord extends Omit<BuildRow, 'no' | 'parts'> {
  id: string;
  no: number;
  stage: Stage | null;
  source: 'pick' | 'bench';
}

const ROW = `SELECT b.id, b.no, b.kind, p.sku, p.name, p.picture, b.quantity, b.made, CAST(b.due AS CHAR) AS due, x.code AS bench, b.state, b.source, o.stage
  FROM build b JOIN product p ON p.id = b.productId LEFT JOIN place x ON x.id = b.benchId LEFT JOIN orders o ON o.id = b.orderId`;

/** Where the parts of a build stand, by the stage of its order. */
const PARTS_WORDS: Partial<Record<Stage, string>> = {
  Incoming: 'being checked',
  Stopped: 'stopped',
  Parked: 'parked',
  Short: 'parts short',
  Clear: 'parts reserved',
  Listed: 'parts on a pick list',
  Picked: 'parts at hand',
};

/** Reads of builds. */
@Injectable()
export class BuildsQueries {
  constructor(
    private readonly db: Db,
    private readonly catalog: CatalogService,
    private readonly builds: Builds,
    private readonly putAway: PutAway,
  ) {}

  /** Open builds by due day, then the newest that ended. */
  async list(): Promise<BuildRow[]> {
    const open = await this.db.rows<BuildRowRecord>(
      `${ROW} WHERE b.state = 'open' ORDER BY b.due IS NULL, b.due, b.no`,
    );
    const ended = await this.db.rows<BuildRowRecord>(
      `${ROW} WHERE b.state <> 'open' ORDER BY b.doneAt DESC, b.no DESC LIMIT 30`,
    );
    return [...open, ...ended].map(rowOf);
  }

  async one(no: string): Promise<BuildView> {
    const number = /^BU-(\d{1,9})$/i.exec(no)?.[1] ?? -1;
    const row = await this.db.one<BuildRowRecord>(`${ROW} WHERE b.no = ?`, [number]);
    if (!row) throw new NotHere(`The build ${no.slice(0, 20)}`);
    const build = (await this.db.one<
      BuildRecord & { instruction: string; createdAt: Date; person: string | null; tote: string | null }
    >(
      `SELECT b.*, p.name AS person, (SELECT GROUP_CONCAT(t.mark ORDER BY t.code SEPARATOR ' ') FROM place t WHERE t.busyWith = b.orderId) AS tote FROM build b LEFT JOIN person p ON p.id = b.personId WHERE b.id = ?`,
      [row.id],
    ))!;
    const lines = await this.lines(build);
    const most = Math.min(build.quantity - build.made, ...lines.map(l => Math.floor(l.atHand / l.perKit)));
    const product = (await this.catalog.products(this.db, [build.productId])).get(build.productId)!;
    return {
      ...rowOf(row),
      instruction: build.instruction,
      source: build.source,
      orderId: build.orderId,
      orderStage: row.stage,
      tote: build.tote,
      createdAt: build.createdAt.toISOString(),
      person: build.person,
      codes: product.codes.map(c => c.code),
      lines,
      canMake: build.state === 'open' ? Math.max(0, most) : 0,
      putAway: await this.putAway.propose(this.db, build.productId, build.quantity - build.made),
      story: await this.story(build),
    };
  }

  private async lines(build: BuildRecord): Promise<BuildPart[]> {
    const products = await this.catalog.products(this.db);
    return this.db.tx({ personId: null, at: new Date() }, async tx => {
      const parts = await this.builds.partsOf(tx, build, products);
      const held = await tx.rows<{ productId: string; reserved: number; picked: number }>(
        "SELECT productId, CAST(SUM(IF(hold IN ('soft', 'listed'), quantity, 0)) AS INT) AS reserved, CAST(SUM(IF(hold = 'picked', quantity, 0)) AS INT) AS picked FROM allocation WHERE orderId = ? GROUP BY productId",
        [build.orderId ?? NONE],
      );
      const onBench =
        build.source === 'bench'
          ? await tx.rows<{ productId: string; n: number }>(
              'SELECT productId, CAST(SUM(onHand) AS INT) AS n FROM stockBalance WHERE placeId = ? GROUP BY productId',
              [build.benchId],
            )
          : [];
      const used = await tx.rows<{ productId: string; why: string; n: number }>(
        "SELECT productId, why, CAST(SUM(quantity) AS INT) AS n FROM stockMove WHERE causeId = ? AND why IN ('build', 'scrap', 'unbuild') GROUP BY productId, why",
        [build.id],
      );
      const places = await tx.rows<{ productId: string; code: string }>(
        `SELECT b.productId, p.code FROM stockBalance b JOIN place p ON p.id = b.placeId AND p.kind IN (${PROMISED_KINDS}) WHERE b.productId IN (?) AND b.onHand > b.listed ORDER BY p.walk, p.code`,
        [[...parts.map(p => p.productId), NONE]],
      );
      const unitsOf = (productId: string, why: string[]) =>
        used.filter(u => u.productId === productId && why.includes(u.why)).reduce((n, u) => n + u.n, 0);
      return parts.map((p): BuildPart => {
        const product = products.get(p.productId)!;
        const hold = held.find(h => h.productId === p.productId);
        return {
          sku: product.sku,
          name: product.name,
          picture: product.picture,
          perKit: p.quantity,
          wanted: p.quantity * build.quantity,
          reserved: hold?.reserved ?? 0,
          atHand: (hold?.picked ?? 0) + (onBench.find(b => b.productId === p.productId)?.n ?? 0),
          used: unitsOf(p.productId, ['build', 'unbuild']),
          scrapped: unitsOf(p.productId, ['scrap']),
          places: [...new Set(places.filter(x => x.productId === p.productId).map(x => x.code))].slice(0, 2),
        };
      });
    });
  }

  /** What was done, from the ledger: portions made, parts spoiled and put back. */
  private async story(build: BuildRecord): Promise<BuildView['story']> {
    const rows = await this.db.rows<{
      at: Date;
      person: string | null;
      why: string;
      reason: string;
      name: string;
      productId: string;
      n: number;
      toCode: string;
    }>(
      `SELECT m.at, n.name AS person, m.why, m.reason, p.name, m.productId, CAST(SUM(m.quantity) AS INT) AS n, t.code AS toCode FROM stockMove m JOIN product p ON p.id = m.productId JOIN place t ON t.id = m.toPlaceId
       LEFT JOIN person n ON n.id = m.personId WHERE m.causeId = ? AND (m.why IN ('scrap', 'left over', 'unbuild') OR m.productId = ?) GROUP BY m.at, m.why, m.productId, m.reason, t.code ORDER BY MIN(m.id)`,
      [build.id, build.productId],
    );
    const says = (r: (typeof rows)[number]): string => {
      if (r.why === 'scrap') return `${r.n} × ${r.name} spoiled: ${r.reason}`;
      if (r.why === 'left over') return `${r.n} × ${r.name} left over, back to ${r.toCode}`;
      if (r.why === 'unbuild' && r.productId === build.productId) return `${r.n} taken apart: ${r.reason}`;
      if (r.why === 'unbuild') return `${r.n} × ${r.name} put in ${r.toCode}`;
      return `${r.n} made, put in ${r.toCode}`;
    };
    return rows.map(r => ({ at: r.at.toISOString(), person: r.person, says: says(r) }));
  }
}

const rowOf = ({ id: _, no, stage, source, ...r }: BuildRowRecord): BuildRow => ({
  ...r,
  no: `BU-${no}`,
  parts:
    r.state !== 'open'
      ? ''
      : source === 'bench'
        ? 'parts on the bench'
        : (PARTS_WORDS[stage ?? 'Incoming'] ?? 'parts used'),
});
