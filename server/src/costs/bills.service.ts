import type { BillQuery, BillRow, BillTaken, BillView } from '@auk/contract';
import { type AgreedLabel, auditLine, type BillLine, formatMoney, minorDigits, readBill } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { stringify } from 'csv-stringify/sync';
import { Db, type Doer, fromJson, newId, type Tx } from '../database/db.js';
import { NotHere, TooLate } from '../http/problem.js';
import { readCsv } from '../reference/table.js';
import { CarrierBill } from './carrierBill.entity.js';
import { CarrierBillLine } from './carrierBillLine.entity.js';
import { billedBefore, billLines, bills, labelsByTracking, lockCarrier } from './costs.queries.js';

const BAD_SHOWN = 100;
const ROWS_AT_ONCE = 500;

/** Carriers' bills, compared row by row with what was bought. */
@Injectable()
export class Bills {
  constructor(private readonly db: Db) {}

  /** Takes a bill in, whole or not at all; one number of a carrier once. */
  async take(about: BillQuery, bytes: Buffer, doer: Doer): Promise<BillTaken> {
    const read = readBill(readCsv(bytes), about.currency);
    if (!read.ok) return { id: null, lines: 0, bad: read.problem.slice(0, BAD_SHOWN) };
    const id = newId();
    await this.db.tx(doer, tx => this.keep(tx, id, about, read.value));
    return { id, lines: read.value.length, bad: [] };
  }

  private async keep(tx: Tx, id: string, about: BillQuery, lines: readonly BillLine[]): Promise<void> {
    const carrier = await lockCarrier(tx, about.carrier);
    if (!carrier) throw new NotHere(`The carrier ${about.carrier}`, 'Choose one of the carriers offered.');
    const { number, name, currency } = about;
    if (await tx.of(CarrierBill).existsBy({ carrier: carrier.code, number }))
      throw new TooLate(
        `The bill ${number} of ${carrier.name} is here already.`,
        'Look at it in the list; a corrected bill has a number of its own.',
      );
    await tx.insert(CarrierBill, [
      { id, carrier: carrier.code, number, name, currency, at: tx.at, personId: tx.personId },
    ]);
    const bought = await this.boughtFor(tx, carrier.code, lines);
    const billedHere = new Map<string, string>();
    const rows = lines.map((line, i) => {
      const label = bought.get(line.tracking) ?? null;
      const before = label && (billedHere.get(label.id) ?? label.billedOn);
      const audited = auditLine(line, label && { ...label, billedOn: before ?? null }, currency);
      if (label) billedHere.set(label.id, number);
      return {
        id: newId(),
        billId: id,
        seq: i + 1,
        tracking: line.tracking,
        labelId: label?.id ?? null,
        service: line.service.slice(0, 80),
        weightMg: line.weightMg,
        minor: line.minor,
        charges: JSON.stringify(line.charges),
        verdict: audited.verdict,
        agreedMinor: audited.agreedMinor,
        says: audited.says.slice(0, 300),
      };
    });
    await tx.insert(CarrierBillLine, rows);
    await tx.tell('bills', id);
  }

  private async boughtFor(
    tx: Tx,
    carrier: string,
    lines: readonly BillLine[],
  ): Promise<Map<string, AgreedLabel & { id: string }>> {
    const found = new Map<string, AgreedLabel & { id: string }>();
    const trackings = [...new Set(lines.map(l => l.tracking))];
    for (let i = 0; i < trackings.length; i += ROWS_AT_ONCE) {
      const labels = await labelsByTracking(tx, carrier, trackings.slice(i, i + ROWS_AT_ONCE));
      const before = new Map(
        (labels.length > 0
          ? await billedBefore(
              tx,
              labels.map(l => l.id),
            )
          : []
        ).map(b => [b.labelId, b.number]),
      );
      for (const { tracking, charges, state, ...l } of labels)
        if (!found.has(tracking!))
          found.set(tracking!, {
            ...l,
            state: state as AgreedLabel['state'],
            charges: charges ? fromJson<AgreedLabel['charges']>(charges) : [],
            billedOn: before.get(l.id) ?? null,
          });
    }
    return found;
  }

  async list(): Promise<BillRow[]> {
    return (await bills(this.db, null)).map(b => ({ ...b, at: b.at.toISOString() }));
  }

  async one(id: string): Promise<BillView> {
    const [bill] = await bills(this.db, id);
    if (!bill) throw new NotHere('That bill');
    const rows = await billLines(this.db, id);
    return {
      ...bill,
      at: bill.at.toISOString(),
      rows: rows.map(({ no, ...r }) => ({ ...r, parcel: no === null ? null : `PA-${no}` })),
    };
  }

  /** What is claimed of a bill, as a file for the carrier. No cell of it runs as a formula. */
  async claim(id: string): Promise<{ name: string; text: string }> {
    const bill = await this.one(id);
    const digits = minorDigits(bill.currency);
    const amount = (minor: number | null) => (minor === null ? '' : (minor / 10 ** digits).toFixed(digits));
    const rows = bill.rows
      .filter(r => r.claimMinor > 0)
      .map(r => [
        r.tracking,
        r.order ?? '',
        r.service,
        amount(r.minor),
        amount(r.agreedMinor),
        amount(r.claimMinor),
        r.says,
      ]);
    const head = ['Tracking', 'Our reference', 'Service', 'Billed', 'Agreed', 'Claimed', 'Why'];
    const sum = [
      '',
      '',
      '',
      amount(bill.minor),
      '',
      amount(bill.claimMinor),
      `Claimed of bill ${bill.number}: ${formatMoney(bill.claimMinor, bill.currency)}`,
    ];
    const text = stringify([head, ...rows, sum], { escape_formulas: true });
    return { name: `claim-${bill.number.replace(/[^\w-]+/g, '_')}.csv`, text };
  }
}
