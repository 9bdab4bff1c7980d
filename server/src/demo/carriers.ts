import { CARRIERS, CONTRACT, EXCHANGE_RATES } from '@auk/demo';
import { stringify } from 'csv-stringify/sync';
import { CarriersService } from '../carriers/carriers.module.js';
import { newId, type Tx } from '../database/db.js';
import { carrierAccounts, carriersKnown, moveCarriers } from './standins.queries.js';

/** The demo's carriers rest on one day to come, whenever it is loaded; today they work. */
const DAYS_UNTIL_REST = 12;

/** A day before all orders of the demo. */
const BEGINNING = '2026-01-01';

/**
 * Connects the carriers' stand-ins: their addresses change at every start, and those that an older demo had are spoken to as they speak
 * now. What they publish is kept as what their house accounts are expected to cost. Twice changes nothing.
 */
export async function connectCarriers(tx: Tx, carriers: CarriersService, standins: string): Promise<void> {
  const known = new Set((await carriersKnown(tx)).map(r => r.code));
  if (CARRIERS.every(c => known.has(c.code))) return moveCarriers(tx, standins);
  await tx.upsert(
    'carrier',
    CARRIERS.map((c, i) => ({
      code: c.code,
      name: c.name,
      kind: c.habit,
      address: `${standins}/${c.code}`,
      position: i + 1,
      planUpToMg: c.planUpToMg,
    })),
    ['kind', 'address', 'position', 'planUpToMg'],
  );
  await tx.upsert(
    'exchangeRate',
    EXCHANGE_RATES.map(r => ({ ...r, day: BEGINNING })),
    [],
  );
  const rest = new Date(tx.at.getTime() + DAYS_UNTIL_REST * 86_400_000).toISOString().slice(0, 10);
  await tx.upsert('carrierClosed', [{ day: rest, name: 'Carriers’ rest day' }], []);
  const accounts = CARRIERS.flatMap(c =>
    c.accounts.map(({ number, rows, sheet }) => ({
      carrier: c.code,
      number,
      rows,
      sheet,
      own: number === CONTRACT.number,
    })),
  );
  await tx.upsert(
    'carrierAccount',
    accounts.map(({ carrier, number, own }) => ({
      id: newId(),
      carrier,
      number,
      name: own ? CONTRACT.name : 'House account',
      rates: own ? 'sheet' : 'asked',
    })),
    [],
  );
  await tx.upsert(
    'parcelTemplate',
    TEMPLATES.map(t => ({ id: newId(), ...t, options: JSON.stringify(t.options), at: tx.at })),
    [],
  );
  const ids = new Map((await carrierAccounts(tx)).map(a => [`${a.carrier} ${a.number}`, a.id]));
  for (const { carrier, number, rows, sheet } of accounts)
    await carriers.keepSheet(tx, ids.get(`${carrier} ${number}`)!, sheet, Buffer.from(stringify(rows)));
}

/** Ready-made choices of the demo. */
const TEMPLATES = [
  {
    name: 'Small and light',
    carrier: 'heron',
    service: 'letter',
    serviceName: 'Heron Light',
    boxCode: 'BX-1',
    options: {},
  },
  {
    name: 'Signed for',
    carrier: 'redfen',
    service: 'ground',
    serviceName: 'Redfen Ground',
    boxCode: null,
    options: { signature: true },
  },
];
