import { createHash } from 'node:crypto';
import type { ImportReport } from '@auk/contract';
import { guessMapping, type ReceivedOrder, readOrderRows } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { parse as parseCsv } from 'csv-parse/sync';
import { Db, type Doer, newId } from '../database/db.js';
import { Forbidden, NotHere } from '../http/problem.js';
import { type IntakeChannel, OrderIntake, type Received } from '../orders/intake.js';

const MOST_ROWS = 200_000;
const MOST_COLUMNS = 200;
/** Orders and bad rows that a preview carries; counts are always whole. */
const SHOWN = 200;

/** Orders from files: look first, then take in. */
@Injectable()
export class ImportsService {
  constructor(
    private readonly db: Db,
    private readonly intake: OrderIntake,
  ) {}

  /** Reads a file of orders of a channel; with `commit` takes the good ones in, in one transaction. The same file again changes nothing. */
  async orders(
    channelCode: string,
    name: string,
    bytes: Buffer,
    commit: boolean,
    doer: Doer,
  ): Promise<ImportReport> {
    const channel = await this.channel(channelCode);
    const rows = readCsv(bytes);
    const headings = rows[0]!.map(h => h.trim());
    const { mapping, missing } = guessMapping(headings);
    if (missing.length > 0)
      throw new Forbidden(
        `The file has no column for ${missing.join(', ')}. Its headings are: ${headings.slice(0, 20).join(', ').slice(0, 300)}.`,
        'Name the columns so that they can be recognised, and drop the file again.',
        { headings, missing },
      );
    const { orders, bad } = readOrderRows(rows, mapping, channel.currency);
    const states = commit
      ? await this.take(channel, name, bytes, orders, doer)
      : await this.preview(channel, orders);
    return report(commit, channelCode, headings, { mapping, missing, bad }, orders, states);
  }

  private async channel(code: string): Promise<IntakeChannel & { currency: string }> {
    const channel = await this.db.one<IntakeChannel & { currency: string }>(
      'SELECT c.id, c.name, c.currency, (SELECT id FROM warehouse LIMIT 1) AS warehouseId FROM channel c WHERE c.code = ?',
      [code],
    );
    if (!channel)
      throw new NotHere(`The channel ${code.slice(0, 20)}`, 'Choose one of the channels offered.');
    return channel;
  }

  private async preview(channel: IntakeChannel, orders: ReceivedOrder[]): Promise<Received[]> {
    const known = await this.intake.known(this.db, channel, orders);
    return orders.map(o => ({
      channelNumber: o.channelNumber,
      state: this.intake.compare(known.get(o.channelNumber), o),
      stage: known.get(o.channelNumber)?.stage ?? null,
    }));
  }

  private take(
    channel: IntakeChannel,
    name: string,
    bytes: Buffer,
    orders: ReceivedOrder[],
    doer: Doer,
  ): Promise<Received[]> {
    return this.db.tx(doer, async tx => {
      // One file at a time for a channel: two people dropping the same file must not both find it new.
      await tx.one('SELECT id FROM channel WHERE id = ? FOR UPDATE', [channel.id]);
      const states = await this.intake.receive(tx, channel, orders);
      const digest = createHash('sha256').update(bytes).digest('hex');
      await tx.insert('importFile', [
        {
          id: newId(),
          channelId: channel.id,
          name,
          digest,
          at: tx.at,
          personId: tx.personId,
          counts: JSON.stringify(countStates(states)),
        },
      ]);
      return states;
    });
  }
}

const countStates = (states: readonly Received[]) => ({
  new: states.filter(s => s.state === 'new').length,
  changed: states.filter(s => s.state === 'changed').length,
  same: states.filter(s => s.state === 'same').length,
  cannotChange: states.filter(s => s.state === 'cannot change').length,
});

function report(
  committed: boolean,
  channel: string,
  headings: string[],
  read: Pick<ImportReport, 'mapping' | 'missing' | 'bad'>,
  orders: ReceivedOrder[],
  states: Received[],
): ImportReport {
  const stages: Record<string, number> = {};
  for (const s of states) if (s.state === 'new' && s.stage) stages[s.stage] = (stages[s.stage] ?? 0) + 1;
  return {
    committed,
    channel,
    headings,
    mapping: read.mapping,
    missing: read.missing,
    stages,
    orders: orders.slice(0, SHOWN).map((o, i) => ({
      channelNumber: o.channelNumber,
      buyer: o.shipTo.name,
      lines: o.lines.length,
      units: o.lines.reduce((n, l) => n + l.quantity, 0),
      totalMinor: o.shippingMinor + o.lines.reduce((n, l) => n + l.quantity * l.priceMinor, 0),
      currency: o.currency,
      state: states[i]!.state === 'cannot change' ? 'same' : (states[i]!.state as 'new'),
    })),
    counts: {
      ...countStates(states),
      lines: orders.reduce((n, o) => n + o.lines.length, 0),
      badRows: new Set(read.bad.map(b => b.row)).size,
    },
    bad: read.bad.slice(0, SHOWN),
  };
}

/** Reads CSV bytes into rows of cells, heading first: UTF-8 with or without BOM, else Windows-1252; comma, semicolon or tab. */
export function readCsv(bytes: Buffer): string[][] {
  if (bytes.length === 0) throw new Forbidden('The file is empty.', 'Export it again and drop it here.');
  if (bytes.subarray(0, 4096).includes(0))
    throw new Forbidden('The file is not a text file.', 'Save it as CSV and drop that.');
  const text = decode(bytes);
  const firstLine = text.slice(0, text.search(/[\r\n]|$/));
  const delimiter = [',', ';', '\t'].sort(
    (a, b) => firstLine.split(b).length - firstLine.split(a).length,
  )[0]!;
  let rows: string[][];
  try {
    rows = parseCsv(text, {
      delimiter,
      bom: true,
      relax_column_count: true,
      skip_empty_lines: true,
      max_record_size: 200_000,
      to: MOST_ROWS + 2,
    });
  } catch (error) {
    throw new Forbidden(
      `The file is not readable as CSV: ${(error as Error).message.slice(0, 160)}.`,
      'Save it as CSV again; texts with commas or quotes must stand in quotes.',
    );
  }
  if (rows.length < 2)
    throw new Forbidden('The file has a heading at most, and no rows.', 'Export it again and drop it here.');
  if (rows.length > MOST_ROWS + 1)
    throw new Forbidden(`The file has more than ${MOST_ROWS} rows.`, 'Cut it into smaller files.');
  if (rows[0]!.length > MOST_COLUMNS)
    throw new Forbidden(
      `The file has ${rows[0]!.length} columns.`,
      `Keep the columns that orders need; ${MOST_COLUMNS} are read at most.`,
    );
  return rows;
}

function decode(bytes: Buffer): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}
