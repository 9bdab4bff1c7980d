import {
  BINS,
  BOXES,
  LAYOUT,
  OTHER_PLACES,
  PEOPLE,
  RESERVE_LEVEL,
  TIMETABLE,
  TOTES,
  WAREHOUSE,
} from '@auk/demo';
import { newId, type Tx } from '../database/db.js';

/** The demo's house by the ids of its rows. */
export interface HouseIds {
  warehouse: string;
  bins: string[];
  reserves: string[];
  outside: string;
}

/** Writes the warehouse with its places, people, boxes, weekly timetable and papers. */
export async function insertHouse(tx: Tx, pinHash: string): Promise<HouseIds> {
  const warehouse = newId();
  const { sender, ...facts } = WAREHOUSE;
  await tx.insert('warehouse', [
    { id: warehouse, ...facts, sender: JSON.stringify(sender), layout: JSON.stringify(LAYOUT) },
  ]);
  const places = await insertPlaces(tx, warehouse);
  await tx.insert(
    'person',
    PEOPLE.map(p => ({ id: newId(), ...p, pinHash })),
  );
  await tx.insert(
    'box',
    BOXES.map((b, i) => ({ ...b, position: i + 1 })),
  );
  await tx.insert(
    'timetable',
    TIMETABLE.map(({ services, ...t }) => ({
      id: newId(),
      warehouseId: warehouse,
      ...t,
      weekdays: '1,2,3,4,5,6,7',
      services: JSON.stringify(services),
    })),
  );
  await tx.insert(
    'paperTemplate',
    PAPERS.map((p, position) => ({ id: newId(), ...p, position })),
  );
  return { warehouse, ...places };
}

/** Shelves, totes and the places that every house has. */
async function insertPlaces(tx: Tx, warehouseId: string): Promise<Omit<HouseIds, 'warehouse'>> {
  const bins = BINS.map((b, i) => ({
    id: newId(),
    warehouseId,
    ...b,
    kind: b.level === RESERVE_LEVEL ? 'reserve' : 'bin',
    walk: i,
    mark: null,
    colour: null,
  }));
  const totes = TOTES.map(t => ({
    id: newId(),
    warehouseId,
    kind: 'tote',
    code: t.code,
    aisle: null,
    along: null,
    level: null,
    side: null,
    walk: 0,
    mark: t.mark,
    colour: t.colour,
  }));
  const others = OTHER_PLACES.map(p => ({
    id: newId(),
    warehouseId,
    aisle: null,
    along: null,
    level: null,
    bay: null,
    mark: null,
    zone: '',
    ...p,
  }));
  await tx.insert('place', bins);
  await tx.insert('place', totes);
  await tx.insert('place', others);
  return {
    bins: bins.filter(b => b.kind === 'bin').map(b => b.id),
    reserves: bins.filter(b => b.kind === 'reserve').map(b => b.id),
    outside: others.find(o => o.kind === 'outside')!.id,
  };
}

/** Looks of slips and invoices: abroad with prices and in metric units, at home without. */
const PAPERS = [
  {
    kind: 'slip',
    name: 'Abroad',
    country: 'abroad',
    message: 'Goods made in the USA. Questions: bees@skepside.example',
    prices: true,
    metric: true,
  },
  {
    kind: 'slip',
    name: 'At home',
    country: '',
    message: 'Thank you. Something wrong? Write to bees@skepside.example within 30 days.',
    prices: false,
    metric: false,
  },
  {
    kind: 'invoice',
    name: 'Invoice',
    country: '',
    message: 'Payable within 14 days. Skepside Bee Supply, Zanesville, Ohio.',
    prices: true,
    metric: false,
  },
  {
    kind: 'commercial',
    name: 'Commercial invoice',
    country: 'abroad',
    message: 'These goods were made in the countries named. All that is written here is true.',
    prices: true,
    metric: true,
  },
];
