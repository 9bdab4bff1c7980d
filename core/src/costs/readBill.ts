import { parseAmount } from '../money/money.js';
import { fail, ok, type Result } from '../result.js';
import { parseWeight } from '../units/units.js';
import type { BillLine } from './billAudit.js';

/** A row that cannot be read, counted as a spreadsheet shows it, with why. */
export interface BadBillRow {
  row: number;
  why: string;
}

/** Headings by which the columns of a bill are known, in small letters without signs. Any other column is a charge of its own. */
const HEADINGS: Record<'tracking' | 'service' | 'weight' | 'unit' | 'amount', readonly string[]> = {
  tracking: ['tracking', 'trackingnumber', 'number', 'consignment', 'parcel'],
  service: ['service', 'product'],
  weight: ['weight', 'billedweight', 'billableweight'],
  unit: ['unit', 'weightunit'],
  amount: ['amount', 'total', 'net', 'charge', 'sum'],
};
/** Most characters of a service's or a charge's name. */
const MOST = 80;
const plain = (heading: string) => heading.toLowerCase().replace(/[^a-z]/g, '');

/**
 * Reads a carrier's bill from the cells of a CSV file: the first row names the columns; tracking and amount must be there, the weight has
 * its unit in the cell or beside it, and all other columns are charges in the bill's currency. Every bad row is named, and a bill with one
 * is not taken. Repeated rows are kept: being billed twice is what an audit is for.
 */
export function readBill(
  rows: readonly (readonly string[])[],
  currency: string,
): Result<BillLine[], BadBillRow[]> {
  const [head, ...body] = rows;
  const headings = (head ?? []).map(plain);
  const at = (of: keyof typeof HEADINGS) => headings.findIndex(h => HEADINGS[of].includes(h));
  const columns = {
    tracking: at('tracking'),
    service: at('service'),
    weight: at('weight'),
    unit: at('unit'),
    amount: at('amount'),
  };
  const missing = (['tracking', 'amount'] as const).filter(c => columns[c] === -1);
  if (missing.length > 0)
    return fail([
      { row: 1, why: `The first row names no column of ${missing.join(' and ')}, such as "${missing[0]}".` },
    ]);
  const long = head!.findIndex(h => h.trim().length > MOST);
  if (long !== -1)
    return fail([{ row: 1, why: `The heading of column ${long + 1} has more than ${MOST} characters.` }]);
  const known = new Set(Object.values(columns));
  const bad: BadBillRow[] = [];
  const lines: BillLine[] = [];
  body.forEach((cells, i) => {
    if (cells.every(c => c.trim() === '')) return;
    const cell = (of: keyof typeof columns) => cells[columns[of]]?.trim() ?? '';
    const problems: string[] = [];
    const amount = parseAmount(cell('amount'), currency);
    if (!amount.ok) problems.push(`the amount: ${amount.problem}`);
    const tracking = cell('tracking').replace(/\s/g, '');
    if (!/^[\x21-\x7e]{5,40}$/.test(tracking))
      problems.push('the tracking number has 5 to 40 letters and digits');
    if (cell('service').length > MOST) problems.push(`the service has more than ${MOST} characters`);
    const weightText = `${cell('weight')} ${cell('unit')}`.trim();
    const weight = cell('weight') === '' ? null : parseWeight(weightText);
    if (weight && !weight.ok) problems.push(`the weight: ${weight.problem}`);
    const charges = headings.flatMap((_, c) => {
      const text = cells[c]?.trim() ?? '';
      if (known.has(c) || text === '' || head![c]!.trim() === '') return [];
      const charge = parseAmount(text, currency);
      if (charge.ok) return charge.value === 0 ? [] : [{ name: head![c]!.trim(), minor: charge.value }];
      problems.push(`${head![c]!.trim()}: ${charge.problem}`);
      return [];
    });
    if (problems.length > 0 || !amount.ok) bad.push({ row: i + 2, why: `${problems.join('; ')}.` });
    else
      lines.push({
        tracking,
        service: cell('service'),
        weightMg: weight?.ok ? weight.value : null,
        minor: amount.value,
        charges,
      });
  });
  if (lines.length === 0 && bad.length === 0) return fail([{ row: 1, why: 'The bill has no rows.' }]);
  return bad.length > 0 ? fail(bad) : ok(lines);
}
