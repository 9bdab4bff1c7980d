import { afterAll, beforeAll, expect, test } from 'vitest';
import { listAndPick, ordersIn } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';
import { pagesOf } from './pdf.js';

let house: House;
let lead: Caller;
beforeAll(async () => {
  house = await openHouse('small');
  lead = await house.signIn('AB-1001');
});
afterAll(() => house.close());

const HEAD = 'Kind,Code,X,Y,From,To,Aisle,Along,Side,Area';
const bring = (lines: string[]) => lead.takeIn('layout', 'name=floor.csv', [HEAD, ...lines].join('\n'));
const standing = (code: string) =>
  house.db.one<{ aisle: number | null; along: number | null; walk: number; zone: string }>(
    'SELECT aisle, along, walk, zone FROM place WHERE code = ?',
    [code],
  );

/** Two blocks of ten aisles, J first, and where three places stand. */
const TWO_BLOCKS = [
  'aisle,J,0,,0,30 m',
  ...[...'ABCDEFGH'].map((code, i) => `aisle,${code},${3 * (i + 1)},,0,30`),
  'cross aisle,FRONT,,0,0,27',
  'cross aisle,MIDDLE,,15,0,27',
  'cross aisle,BACK,,30,0,27',
  'start,,,,,,FRONT,13.5',
  'place,A-01-1,,,,,A,2,left,Near',
  'place,SHELF/7,,,,,J,40 ft,right,Far',
];

test('a floor is looked at, taken in, and the same file again changes nothing', async () => {
  const look = await lead.file('imports/layout?name=floor.csv', [HEAD, ...TWO_BLOCKS].join('\n'));
  expect(look.body.counts).toMatchObject({ new: 1, changed: 2 });
  expect((await lead.get('stock/floor')).body.aisles).toHaveLength(8);
  const before = await standing('B-02-1');
  expect((await bring(TWO_BLOCKS)).body.counts).toMatchObject({ new: 1, changed: 2 });
  const floor = (await lead.get('stock/floor')).body;
  expect(floor).toMatchObject({
    exact: true,
    start: { way: 'FRONT', along: 13.5 },
    end: { way: 'FRONT', along: 13.5 },
  });
  expect(floor.aisles.map((a: { code: string }) => a.code).join('')).toBe('JABCDEFGH');
  // Aisle B is the third now; its places went with it.
  expect(await standing('B-02-1')).toMatchObject({ aisle: before!.aisle! + 1, along: before!.along });
  expect(await standing('A-01-1')).toMatchObject({ aisle: 1, along: 20_000, zone: 'Near' });
  expect(await standing('SHELF/7')).toMatchObject({ aisle: 0, along: 121_920, zone: 'Far' });
  expect((await bring(TWO_BLOCKS)).body.counts).toMatchObject({ new: 0, changed: 0 });
  expect(await differences(house)).toEqual([]);
});

test('wrong and unreachable places are named, and the others are taken', async () => {
  const { body } = await bring([
    'place,A-01-1,,,,,A,31',
    'place,A-01-2,,,,,X,1',
    'place,A-02-1,,,,,A,3',
    'place,TO-001,,,,,A,3',
  ]);
  expect(body.counts).toMatchObject({ changed: 1, cannotChange: 3 });
  const says = body.rows.map((r: { name: string; says: string }) => `${r.name}: ${r.says}`);
  expect(says).toContain('A-01-1: Aisle A is 30 m long, and the place would stand at 31 m.');
  expect(says).toContain('A-01-2: The floor has no aisle X.');
  expect(says).toContain('TO-001: TO-001 is the code of a tote, which stands nowhere.');
});

test('two who lay a floor at one moment leave every place on the aisle of its code', async () => {
  const { aisles, crossAisles, start, end } = (await lead.get('stock/floor')).body;
  const save = (list: unknown[]) => lead.post('stock/floor', { aisles: list, crossAisles, start, end });
  const astray = async () => {
    const floor = (await lead.get('stock/floor')).body;
    const rows = await house.db.rows<{ code: string; aisle: number }>(
      "SELECT code, aisle FROM place WHERE aisle IS NOT NULL AND code REGEXP '^[B-G]-[0-9]{2}-[0-9]$'",
    );
    expect(rows.length).toBeGreaterThan(100);
    return rows.filter(r => floor.aisles[r.aisle].code !== r.code[0]).map(r => r.code);
  };
  for (let i = 0; i < 6; i++) {
    const turned = [aisles.toReversed(), [...aisles.slice(3), ...aisles.slice(0, 3)]];
    const saved = await Promise.all(turned.map(save));
    expect(saved.map(x => x.status)).toEqual([200, 200]);
    expect(await astray()).toEqual([]);
  }
});

test('a floor that cannot be walked is refused whole, from a file and by hand', async () => {
  const look = await lead.file(
    'imports/layout?name=f.csv',
    [HEAD, ...TWO_BLOCKS, 'aisle,K,99,,0,30'].join('\n'),
  );
  expect(look.body.bad[0]).toMatchObject({ value: 'K' });
  const floor = (await lead.get('stock/floor')).body;
  const { aisles, crossAisles, start, end } = floor;
  const save = (more: object) => lead.post('stock/floor', { aisles, crossAisles, start, end, ...more });
  expect(await save({ aisles: [...aisles, { code: 'K', x: 99, from: 0, to: 30 }] })).toMatchObject({
    status: 422,
    body: { detail: 'Aisle K cannot be reached from the start.' },
  });
  expect((await save({ aisles: [] })).status).toBe(400);
  expect((await save({ start: { way: 'NOWHERE', along: 1 } })).status).toBe(422);
  // Without aisle H its places stand nowhere, and are named.
  const without = await save({ aisles: aisles.filter((a: { code: string }) => a.code !== 'H') });
  expect(without.status).toBe(200);
  expect(without.body.unplaced).toBeGreaterThan(20);
  expect(without.body.unplacedCodes).toContain('H-01-1');
  const picker = await house.signIn('AB-1002');
  expect((await picker.post('stock/floor', { aisles, crossAisles, start, end })).status).toBe(403);
});

test('totes are numbered many at once, and what was left in one is named', async () => {
  const make = (caller: Caller, more: object = {}) =>
    caller.post('stock/totes', { count: 12, letter: 'q', colour: 'green', ...more });
  const known = (await lead.get('stock/totes')).body.length;
  const both = await Promise.all([make(lead), make(lead)]);
  const codes = both.flatMap(b => b.body as string[]);
  expect(new Set(codes).size).toBe(24);
  const totes = (await lead.get('stock/totes')).body as {
    code: string;
    mark: string;
    colour: string;
    left: boolean;
  }[];
  expect(totes).toHaveLength(known + 24);
  const green = totes.filter(t => t.colour === 'green').map(t => t.mark);
  expect(green.sort()).toEqual(Array.from({ length: 24 }, (_, i) => `Q${i + 1}`).sort());
  expect((await make(lead, { letter: '7' })).status).toBe(400);
  expect((await make(await house.signIn('AB-1002'))).status).toBe(403);
  expect(totes.filter(t => t.left)).toEqual([]);
  // Picked yesterday and never brought to a bench.
  const [orderId] = await ordersIn(lead, 'Clear', 1);
  await listAndPick(lead, [orderId!]);
  const full = async () =>
    ((await lead.get('stock/totes')).body as { units: number; left: boolean }[]).filter(t => t.units > 0);
  const now = await full();
  expect(now.length).toBeGreaterThan(0);
  expect(now.filter(t => t.left)).toEqual([]);
  await house.db.run("UPDATE stockMove SET at = at - INTERVAL 2 DAY WHERE why = 'pick'");
  expect((await full()).filter(t => !t.left)).toEqual([]);
});

test('labels are printed of all totes or of those that were made, of one wall, and never in part', async () => {
  const printed = async (path: string) => {
    const answer = await fetch(`${house.url}/api/v1/stock/${path}`, { headers: { cookie: lead.cookie } });
    return pagesOf(Buffer.from(await answer.arrayBuffer())).join(' ');
  };
  const codes = (await lead.post('stock/totes', { kind: 'tote', count: 3, letter: 'Q', colour: 'grey' }))
    .body as string[];
  const some = await printed(`totes/labels.pdf?form=thermal&from=${codes[1]}&to=${codes[2]}`);
  expect(codes.filter(c => some.includes(c))).toEqual(codes.slice(1));
  expect(await printed('totes/labels.pdf?form=sheet')).toContain('TO-001');
  const [wall] = (await lead.get('stock/walls')).body;
  const cells = await printed(`walls/${wall.wall}/labels.pdf?form=sheet`);
  for (const c of wall.cells) expect(cells).toContain(c.code);
  expect((await lead.get('stock/walls/Z/labels.pdf')).status).toBe(404);
  for (let i = 0; i < 3; i++)
    await lead.post('stock/totes', { kind: 'tote', count: 200, letter: 'R', colour: 'grey' });
  const all = await lead.get('stock/totes/labels.pdf?form=sheet');
  expect([all.status, all.body.detail]).toEqual([422, 'More than 600 labels are not printed at once.']);
});
