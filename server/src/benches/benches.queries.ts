import type { Sql, Tx } from '../database/db.js';
import type { Order } from '../records/order.entity.js';
import type { Bench } from './bench.entity.js';
import type { Printer } from './printer.entity.js';
import type { PrintJob } from './printJob.entity.js';

export function benchRows(sql: Sql): Promise<(Bench & { devices: number })[]> {
  return sql.rows(
    'SELECT b.*, CAST((SELECT COUNT(*) FROM benchDevice d WHERE d.benchId = b.id) AS INT) AS devices FROM bench b ORDER BY b.code',
  );
}

export function printerRows(sql: Sql): Promise<(Printer & { waiting: number; trouble: string | null })[]> {
  return sql.rows(
    `SELECT p.id, p.name, p.url, CAST((SELECT COUNT(*) FROM printJob j WHERE j.printerId = p.id AND j.state = 'waiting') AS INT) AS waiting,
       (SELECT j.why FROM printJob j WHERE j.printerId = p.id AND j.state = 'waiting' AND j.why IS NOT NULL ORDER BY j.at LIMIT 1) AS trouble
     FROM printer p ORDER BY p.name`,
  );
}

/** The bench at which an order was packed last, by the device that packed it. */
export function benchOfOrder(sql: Sql, orderId: string): Promise<Bench | null> {
  return sql.one(
    "SELECT b.* FROM scanSession x JOIN benchDevice d ON d.device = x.device JOIN bench b ON b.id = d.benchId WHERE x.orderId = ? AND x.kind = 'pack'",
    [orderId],
  );
}

export function benchOfDevice(sql: Sql, device: string): Promise<Pick<Bench, 'id'> | null> {
  return sql.one('SELECT benchId AS id FROM benchDevice WHERE device = ?', [device]);
}

/** Papers of a printer (or of all): those that wait first, then the newest. */
export function trayRows(
  sql: Sql,
  printerId: string | null,
): Promise<
  (Pick<PrintJob, 'id' | 'kind' | 'state' | 'why' | 'tries' | 'copies' | 'at' | 'printedAt' | 'parcelNo'> & {
    printer: Printer['name'];
    bench: Bench['name'] | null;
    orderNo: Order['no'];
    channelNumber: Order['channelNumber'];
  })[]
> {
  return sql.rows(
    `SELECT j.id, j.kind, j.state, j.why, j.tries, j.copies, j.at, j.printedAt, j.parcelNo, p.name AS printer, b.name AS bench, o.no AS orderNo, o.channelNumber
       FROM printJob j JOIN printer p ON p.id = j.printerId JOIN orders o ON o.id = j.orderId LEFT JOIN bench b ON b.id = j.benchId
       WHERE ? IS NULL OR j.printerId = CAST(? AS UUID) ORDER BY j.state = 'printed', j.at DESC LIMIT 200`,
    [printerId, printerId],
  );
}

/** The code that a further bench is given. */
export async function nextBenchCode(tx: Tx): Promise<string> {
  const row = await tx.one<{ code: string }>(
    "SELECT CONCAT('BE-', COALESCE(MAX(CAST(SUBSTRING(code, 4) AS INT)), 0) + 1) AS code FROM bench WHERE code LIKE 'BE-%'",
  );
  return row!.code;
}

/** Forgets some papers that came out so many days ago. */
export function forgetPrinted(sql: Sql, days: number): Promise<number> {
  return sql.run(
    "DELETE FROM printJob WHERE state = 'printed' AND printedAt < NOW(3) - INTERVAL ? DAY LIMIT 500",
    [days],
  );
}

export function noteTried(sql: Sql, id: string, why: string): Promise<number> {
  return sql.run('UPDATE printJob SET tries = tries + 1, why = ? WHERE id = ?', [why, id]);
}

/** One more copy came out; `printedAt` is the last time. */
export function notePrinted(sql: Sql, id: string): Promise<number> {
  return sql.run(
    "UPDATE printJob SET tries = tries + 1, copies = copies + 1, why = NULL, state = 'printed', printedAt = NOW(3) WHERE id = ?",
    [id],
  );
}
