import { BENCHES, PRINTERS } from '@auk/demo';
import { newId, type Tx } from '../database/db.js';

const addressOf = (standins: string, code: string): string => `${standins}/printers/${code}`;

/** The benches and printers of the demo company; its printers are stand-ins. */
export async function loadBenches(tx: Tx, standins: string, scaleAt: string | null): Promise<void> {
  const ids = new Map<string, string>(PRINTERS.map(p => [p.code, newId()]));
  await tx.insert(
    'printer',
    PRINTERS.map(p => ({ id: ids.get(p.code)!, name: p.name, url: addressOf(standins, p.code) })),
  );
  await tx.insert(
    'bench',
    BENCHES.map(b => ({
      id: newId(),
      code: b.code,
      name: b.name,
      labelPrinterId: ids.get(b.label)!,
      slipPrinterId: ids.get(b.slip)!,
      scaleAt: b.scale ? scaleAt : null,
    })),
  );
}
