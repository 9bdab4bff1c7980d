import { count, formatMoney, type Mapping, ORDER_FIELDS, paidOf, readOrderRows } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { type IntakeChannel, OrderIntake } from '../intake/intake.module.js';
import type { Table } from '../reference/table.js';
import { type Importer, type Outcome, type ReadFile } from './importer.js';

/** Orders of a channel. */
@Injectable()
export class OrdersImport implements Importer {
  readonly kind = 'orders';
  readonly fields = ORDER_FIELDS;
  readonly ofChannel = true;

  constructor(private readonly intake: OrderIntake) {}

  read(table: Table, mapping: Mapping, channel: IntakeChannel): ReadFile {
    const read = readOrderRows(table, mapping, channel.currency);
    return {
      things: read.items.length,
      lines: read.items.reduce((n, i) => n + i.item.lines.length, 0),
      bad: read.bad,
      leftOut: read.leftOut,
      handle: async (tx, from, to, commit) => {
        const part = read.items.slice(from, to);
        const orders = part.map(p => p.item);
        const answers = commit
          ? await this.intake.receive(tx, channel, orders)
          : await this.intake.preview(tx, channel, orders);
        const by = new Map(answers.map(a => [a.channelNumber, a]));
        return part.map(({ row, item }): Outcome => {
          const a = by.get(item.channelNumber)!;
          const units = item.lines.reduce((n, l) => n + l.quantity, 0);
          return {
            row,
            name: item.channelNumber,
            about: `${item.shipTo.name}, ${count(item.lines.length, 'line')}, ${count(units, 'unit')}, ${formatMoney(paidOf({ ...item, payment: 'paid' }), item.currency)}`,
            state: a.state,
            says: a.says,
            changes: a.changes,
            ...(a.state === 'new' && a.stage ? { stage: a.stage } : {}),
          };
        });
      },
    };
  }
}
