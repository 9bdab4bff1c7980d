import { deflateRawSync } from 'node:zlib';
import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { toXlsx } from '../src/imports/exports.service.js';
import { idOfOrder, orderCsv, productOf } from './drive.js';
import { type Answer, type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
beforeAll(async () => {
  house = await openHouse('small');
  lead = await house.signIn('AB-1001');
});
afterAll(async () => {
  expect(await differences(house)).toEqual([]);
  await house.close();
});

const query = (kind: string, more = '') =>
  `channel=${kind === 'orders' || kind === 'listings' ? 'web' : 'house'}&name=x${more}`;
const bring = (kind: string, bytes: Buffer | string, more = ''): Promise<Answer> =>
  lead.takeIn(kind, query(kind, more), bytes);
const look = (kind: string, bytes: Buffer | string, more = ''): Promise<Answer> =>
  lead.file(`imports/${kind}?${query(kind, more)}`, bytes);
const orders = (numbers: string[]) =>
  orderCsv(numbers.map(n => `${n},Ruth ${n},1 Road,Boise,ID,83702,BOOK-1ST,Book,1,5.00`));

test('XLSX is a file like any other: days, numbers, and the same file again changes nothing', async () => {
  const file = await toXlsx({
    name: 'x',
    headings: [
      'Order number',
      'Buyer name',
      'Address 1',
      'City',
      'State',
      'Zip',
      'SKU',
      'Qty',
      'Unit price',
      'Deliver by',
    ],
    rows: [['X-1', 'Ruth', '1 Road', 'Boise', 'ID', '83702', 'BOOK-1ST', 2, 5.5, '25 Dec 2026']],
  });
  expect((await bring('orders', file)).body.counts).toMatchObject({ new: 1, badRows: 0 });
  const order = (await lead.get(`orders/${await idOfOrder(lead, 'X-1')}`)).body;
  expect(order).toMatchObject({ row: { promised: '2026-12-25', units: 2 }, money: { goodsMinor: 1100 } });
  expect((await bring('orders', file)).body.counts).toMatchObject({ new: 0, same: 1 });
});

/** A ZIP of one file that unpacks to far more than its directory says. */
function bomb(): Buffer {
  const packed = deflateRawSync(Buffer.alloc(300_000_000));
  const name = Buffer.from('xl/worksheets/sheet1.xml');
  const local = Buffer.alloc(30);
  local.write('PK\u0003\u0004', 0, 'latin1');
  local.writeUInt16LE(8, 8);
  local.writeUInt32LE(packed.length, 18);
  local.writeUInt32LE(1_000, 22);
  local.writeUInt16LE(name.length, 26);
  const entry = Buffer.alloc(46);
  entry.write('PK\u0001\u0002', 0, 'latin1');
  entry.writeUInt16LE(8, 10);
  entry.writeUInt32LE(packed.length, 20);
  entry.writeUInt32LE(1_000, 24);
  entry.writeUInt16LE(name.length, 28);
  const end = Buffer.alloc(22);
  end.write('PK\u0005\u0006', 0, 'latin1');
  end.writeUInt16LE(1, 10);
  end.writeUInt32LE(46 + name.length, 12);
  end.writeUInt32LE(30 + name.length + packed.length, 16);
  return Buffer.concat([local, name, packed, entry, name, end]);
}

test('files that are traps or too large are refused in a sentence', async () => {
  const refused = async (bytes: Buffer | string, words: string) => {
    const answer = await bring('orders', bytes);
    expect(answer.status, words).toBe(422);
    expect(answer.body.detail).toContain(words);
    expect(answer.body.cure.length).toBeGreaterThan(5);
  };
  await refused(bomb(), 'unpacks to more than');
  await refused(bomb().subarray(0, 4_000), 'cut off or damaged');
  const wide = Array.from({ length: 1_000 }, (_, i) => `h${i}`).join(',');
  await refused(`${wide}\n${wide}\n`, '1000 columns');
  await refused(`a,b\n${'1,2\n'.repeat(200_002)}`, 'more than 200000 rows');
}, 30_000);

test('200,000 rows are read and judged', async () => {
  const rows = Array.from({ length: 199_999 }, (_, i) => `SKU-${i},A-01-1,zero`);
  const answer = await look('stock', `SKU,Bin,Counted\n${rows.join('\n')}\n`);
  expect(answer.body.counts).toMatchObject({ badRows: 199_999, leftOut: 199_999 });
  expect(answer.body.bad).toHaveLength(200);
}, 60_000);

test('headings that stand twice: the first counts, and a person may choose the other', async () => {
  const csv =
    'Order number,SKU,SKU,Buyer,Address 1,City,State,Zip,Qty\nH-1,BOOK-1ST,JAR-HEX-12,R,1 Road,Boise,ID,83702,1\n';
  const first = (await look('orders', csv)).body;
  expect(first.mapping.sku).toBe(1);
  const chosen = encodeURIComponent(JSON.stringify({ ...first.mapping, sku: 2 }));
  expect((await bring('orders', csv, `&mapping=${chosen}`)).body.counts.new).toBe(1);
  expect((await lead.get(`orders/${await idOfOrder(lead, 'H-1')}`)).body.lines[0].channelSku).toBe(
    'JAR-HEX-12',
  );
  for (const nonsense of ['[]', '{"sku":-1}', '{"sku":"x"}', 'no'])
    expect((await look('orders', csv, `&mapping=${encodeURIComponent(nonsense)}`)).status, nonsense).toBe(
      400,
    );
});

test('a file sent twice under one id is one run, and lately dropped files are listed with who dropped them', async () => {
  const id = v7();
  const send = () => lead.file(`imports/orders/runs?${query('orders')}&id=${id}`, orders(['RUN-1', 'RUN-2']));
  const answers = await Promise.all([send(), send(), send()]);
  expect(answers.map(a => [a.status, a.body.id, a.body.things])).toEqual(answers.map(() => [200, id, 2]));
  let run = answers[0]!.body;
  while (run.state === 'under way') run = (await lead.get(`imports/runs/${id}`)).body;
  expect(run).toMatchObject({ state: 'done', taken: 2, report: { committed: true, counts: { new: 2 } } });
  expect((await lead.get('imports/runs')).body[0]).toMatchObject({
    id,
    kind: 'orders',
    channel: 'Web store',
    person: expect.stringMatching(/./),
    state: 'done',
    report: null,
  });
  expect(await house.db.rows('SELECT bytes FROM importFile WHERE bytes IS NOT NULL')).toEqual([]);
  expect((await lead.get(`imports/runs/${v7()}`)).status).toBe(404);
});

test('a corrected mapping is remembered for its source, and new headings are still guessed', async () => {
  const csv = (more = '', cell = '') =>
    `Vorgang,Wer,Strasse,Ort,Region,Zip,Artikel,Stueck${more}\nM-${cell.length},Ruth,1 Road,Boise,ID,83702,BOOK-1ST,2${cell}\n`;
  const seen = (await lead.file('imports/orders?channel=loom&name=x', csv())).body;
  expect(seen.missing).toContain('order number');
  expect((await lead.takeIn('orders', 'channel=loom&name=x', csv())).status).toBe(422);
  const mapping = { number: 0, buyer: 1, line1: 2, city: 3, region: 4, postcode: 5, sku: 6, quantity: 7 };
  const done = await lead.takeIn(
    'orders',
    `channel=loom&name=x&mapping=${encodeURIComponent(JSON.stringify(mapping))}`,
    csv(),
  );
  expect(done.body.counts.new).toBe(1);
  const again = (await lead.file('imports/orders?channel=loom&name=x', csv(',Buyer note', ',hello'))).body;
  expect(again).toMatchObject({ remembered: true, mapping: { ...mapping, note: 8 } });
  expect((await lead.file('imports/orders?channel=plaza&name=x', csv())).body.remembered).toBe(false);
});

test('bad rows go out with their why, mended they come in', async () => {
  const csv = orders(['B-1', 'B-2']).replace('BOOK-1ST,Book,1,5.00\nB-2', 'BOOK-1ST,Book,none,5.00\nB-2');
  const report = (await lead.file('imports/orders/bad?channel=web&name=x', csv)).body as string;
  expect(report).toContain('Why it was left out');
  expect(report).toContain('Qty: ""none"" is not a whole number');
  expect(report).not.toContain('B-2');
  expect((await bring('orders', report.replace(',none,', ',1,'))).body.counts).toMatchObject({
    new: 1,
    badRows: 0,
  });
});

test('scripts in names and notes stay texts, in the API and on paper', async () => {
  const evil = '<script>alert(1)</script>';
  await bring(
    'orders',
    orderCsv([`EV-1,${evil},"1 ""><img src=x onerror=alert(1)>",Boise,ID,83702,BOOK-1ST,${evil},1,5`]),
  );
  const id = await idOfOrder(lead, 'EV-1');
  const order = (await lead.get(`orders/${id}`)).body;
  expect(order.row.buyer).toBe(evil);
  await lead.post(`orders/${id}/notes`, { kind: 'slip', text: evil });
  for (const paper of ['slip', 'invoice'])
    expect((await lead.get(`orders/${id}/${paper}.pdf`)).body.slice(0, 5)).toBe('%PDF-');
  const csv = (await lead.get('exports/orders?format=csv&stage=all&words=EV-1')).body as string;
  expect(csv).toContain(evil);
});

test('exports hold what the question finds; cells that could run are harmless', async () => {
  await bring('orders', orderCsv(['F-1,=cmd(),1 Road,Boise,ID,83702,BOOK-1ST,+danger,1,5']));
  const csv = (await lead.get('exports/orders?format=csv&stage=all&words=F-1')).body as string;
  expect(csv.split('\r\n').filter(Boolean)).toHaveLength(2);
  expect(csv).toContain("'=cmd()");
  expect(csv).toContain("'+danger");
  expect((await lead.get('exports/products?format=xlsx&words=jar')).body.slice(0, 2)).toBe('PK');
  expect((await lead.get('exports/people?format=csv')).status).toBe(400);
  expect((await lead.get('exports/orders?format=exe')).status).toBe(400);
});

test('recipes: new versions, several at once; loops spelled out, missing parts named, pieces refused', async () => {
  await lead.post('products', { sku: 'KIT-A', fields: { name: 'Kit A', kind: 'bundle' } });
  await lead.post('products', { sku: 'KIT-B', fields: { name: 'Kit B', kind: 'bundle' } });
  const file = (rows: string[]) => `Kit,Part,Qty\n${rows.join('\n')}\n`;
  const first = await bring('recipes', file(['KIT-A,BOOK-1ST,2', 'KIT-B,KIT-A,1', 'KIT-B,JAR-HEX-12,3']));
  expect(first.body.counts).toMatchObject({ new: 2, cannotChange: 0 });
  expect((await productOf(lead, 'KIT-B')).parts).toMatchObject([
    { sku: 'KIT-A' },
    { sku: 'JAR-HEX-12', quantity: 3 },
  ]);
  const second = (
    await bring(
      'recipes',
      file(['KIT-A,KIT-B,1', 'BOOK-1ST,JAR-HEX-12,1', 'KIT-B,NO-PART,1', 'NO-KIT,BOOK-1ST,1']),
    )
  ).body;
  const says = Object.fromEntries(second.rows.map((r: { name: string; says: string }) => [r.name, r.says]));
  expect(says['KIT-A']).toBe('It would contain itself: KIT-A > KIT-B > KIT-A.');
  expect(says['BOOK-1ST']).toContain('is a piece');
  expect(says['KIT-B']).toContain('NO-PART is no product');
  expect(says['NO-KIT']).toContain('No product has the SKU');
  expect((await bring('recipes', file(['KIT-A,BOOK-1ST,2']))).body.counts).toMatchObject({ same: 1 });
});

test('counted stock moves by the ledger; what orders were promised and is not there makes them Short', async () => {
  const before = await productOf(lead, 'BOOK-LOG');
  const place = before.places[0];
  const count = (n: number) => bring('stock', `SKU,Bin,Counted\nBOOK-LOG,${place.code},${n}\n`);
  expect((await count(place.onHand + 7)).body.rows[0].changes[0]).toMatchObject({
    before: place.onHand,
    after: place.onHand + 7,
  });
  expect((await productOf(lead, 'BOOK-LOG')).free).toBe(before.free + 7);
  expect((await count(place.onHand + 7)).body.counts).toMatchObject({ same: 1 });
  await bring('orders', orderCsv([`CS-1,Ruth C,1 Road,Boise,ID,83702,BOOK-LOG,Log,${before.free + 7},1`]));
  expect((await count(0)).body.rows[0]).toMatchObject({
    state: 'changed',
    says: expect.stringContaining('that orders were promised are not there: the newest promise goes first'),
  });
  expect((await lead.get('orders?stage=Short&words=CS-1')).body.rows).toHaveLength(1);
  expect((await count(place.onHand + 7)).body.counts).toMatchObject({ changed: 0, new: 1 });
  expect((await lead.get('orders?stage=Clear&words=CS-1')).body.rows).toHaveLength(1);
  const wrong = (await bring('stock', 'SKU,Bin,Counted\nSET-SMKHTL,A-01-1,1\nBOOK-LOG,Z-99-9,1\n')).body.rows;
  expect(wrong.map((r: { says: string }) => r.says).join()).toMatch(
    /bundle and has no stock.*No place for stock has the code/,
  );
});

test('a product that a file cannot change wholly is not changed at all', async () => {
  const csv = `SKU,Name,Barcode\nHALF-1,Half made,${(await productOf(lead, 'JAR-HEX-12')).codes[0].code}\n`;
  const report = (await bring('products', csv)).body;
  expect(report.rows[0]).toMatchObject({
    state: 'cannot change',
    says: expect.stringContaining('belongs to'),
  });
  expect((await lead.get('products/HALF-1')).status).toBe(404);
});
