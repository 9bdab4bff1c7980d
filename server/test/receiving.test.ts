import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { Expiry } from '../src/corrections/expiry.service.js';
import { bringIn, idOfOrder, listAndPick, productOf, scanOf, seenIn } from './drive.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
let picker: Caller;
beforeAll(async () => {
  house = await openHouse('small');
  lead = await house.signIn('AB-1001');
  picker = await house.signIn('AB-1002');
});
afterAll(async () => {
  expect(await differences(house)).toEqual([]);
  await house.close();
});

/** A purchase order and its open session. */
async function dock(lines: [sku: string, quantity: number][], supplier = 'Licking Glass') {
  const made = await lead.post('receiving', {
    key: v7(),
    supplier,
    lines: lines.map(([sku, quantity]) => ({ sku, quantity })),
  });
  expect(made.status, JSON.stringify(made.body)).toBe(200);
  const opened = await lead.post(`receiving/${made.body.no}/open`, { device: 'dock-1' });
  const path = `receiving/sessions/${opened.body.sessionId}/scans`;
  return {
    no: made.body.no as string,
    session: opened.body.sessionId as string,
    scan: (text: string, device = 'dock-1', by: Caller = lead) => by.post(path, { ...scanOf(text), device }),
  };
}
const codeOf = async (sku: string): Promise<string> => (await productOf(lead, sku)).codes[0].code;
const stageOf = async (number: string) =>
  (await lead.get(`orders/${await idOfOrder(lead, number)}`)).body.row.stage;

test('5 of 11 are received and the rest awaited; Short orders become Clear at once, most urgent first', async () => {
  const free = (await productOf(lead, 'JAR-HEX-12')).free;
  // Alone, so that it has all there is: heavier orders leave with another carrier, before or after, as the hour has it.
  await bringIn(lead, [['RC-1', 'JAR-HEX-12', free, '2.50']]);
  await bringIn(lead, [
    ['RC-2', 'JAR-HEX-12', 3, '2.50'],
    ['RC-3', 'JAR-HEX-12', 4, '2.50'],
  ]);
  expect([await stageOf('RC-1'), await stageOf('RC-2'), await stageOf('RC-3')]).toEqual([
    'Clear',
    'Short',
    'Short',
  ]);
  const at = await dock([
    ['JAR-HEX-12', 11],
    ['LIDS-58-G', 2],
  ]);
  const code = await codeOf('JAR-HEX-12');
  for (let i = 0; i < 5; i++) expect((await at.scan(code)).body.answer.kind).toBe('counted');
  expect([await stageOf('RC-2'), await stageOf('RC-3')]).toEqual(['Clear', 'Short']);
  const row = (await lead.get('receiving')).body.find((r: { no: string }) => r.no === at.no);
  expect(row).toMatchObject({ ordered: 13, received: 5, state: 'open', frees: 1 });
  const view = (await lead.get(`receiving/sessions/${at.session}`)).body;
  expect(view.freed.map((f: { channelNumber: string }) => f.channelNumber)).toEqual(['RC-2']);
  expect((await at.scan('2')).body.answer.says).toMatch(/7 of 11/);
  expect(await stageOf('RC-3')).toBe('Clear');
  expect(await differences(house)).toEqual([]);
});

test('the same scan again counts once; surplus and strangers are refused with what they are', async () => {
  const at = await dock([['FRM-DP-A', 2]]);
  const once = scanOf(await codeOf('FRM-DP-A'));
  const path = `receiving/sessions/${at.session}/scans`;
  await lead.post(path, { ...once, device: 'dock-1' });
  const again = await lead.post(path, { ...once, device: 'dock-1' });
  expect(again.body).toMatchObject({ repeated: true });
  expect(again.body.state.lines[0].received).toBe(1);
  const stranger = (await at.scan(await codeOf('SMK-4-ST'))).body.answer;
  expect(stranger.says).toMatch(/^This is Smoker.*; PO-\d+ does not have it\.$/);
  await at.scan(once.text);
  expect((await at.scan(once.text)).body.answer.says).toMatch(/this is surplus/);
  const row = (await lead.get('receiving')).body.find((r: { no: string }) => r.no === at.no);
  expect(row).toMatchObject({ received: 2, state: 'done' });
});

test('what is on the dock can be picked from there, and what is put away lies in its place', async () => {
  const at = await dock([['BKT-5G-GT', 6]]);
  await at.scan(await codeOf('BKT-5G-GT'));
  await at.scan('AUK-ALL');
  const places = async () =>
    new Map(
      (await productOf(lead, 'BKT-5G-GT')).places.map((p: { code: string; onHand: number }) => [
        p.code,
        p.onHand,
      ]),
    );
  expect((await places()).get('DOCK-1')).toBe(6);
  const before = (await places()).get('C-05-1') ?? 0;
  expect((await at.scan('NOWHERE')).body.answer.kind).toBe('refused');
  expect((await at.scan('C-05-1')).body.answer.says).toMatch(/^6 × .* put away in C-05-1\.$/);
  expect((await places()).get('C-05-1')).toBe(Number(before) + 6);
  expect((await places()).has('DOCK-1')).toBe(false);
  const back = (await at.scan('AUK-UNDO')).body.answer;
  expect(back.says).toMatch(/taken out of C-05-1 again/);
  expect((await places()).get('DOCK-1')).toBe(6);
  expect((await at.scan('Z-99-9')).body.answer).toMatchObject({
    tone: 'wrong',
    says: expect.stringContaining('Nothing has the code Z-99-9'),
  });
  expect((await places()).get('DOCK-1')).toBe(6);
});

test('lots: asked, read from a GS1 code, first expired first out, expired refused and never promised', async () => {
  const gtin = (await codeOf('MIT-STR-10')) as string;
  const at = await dock([['MIT-STR-10', 30]]);
  const lot = (code: string, day: string, count: number) => `(01)${gtin}(10)${code}(17)${day}(30)${count}`;
  const year = new Date().getUTCFullYear();
  const soon = `${String(year + 1).slice(2)}0100`;
  const later = `${String(year + 2).slice(2)}0600`;
  expect((await at.scan(lot('M-OLD', '240131', 2))).body.answer.says).toMatch(
    /^Lot M-OLD of .* expired on 2024-01-31, so it is not taken in\.$/,
  );
  expect((await at.scan(gtin)).body.answer).toMatchObject({ kind: 'asked' });
  expect((await at.scan('M-LATE')).body.answer.kind).toBe('asked');
  expect((await at.scan('2020-01-01')).body.answer.says).toMatch(/expired/);
  expect((await at.scan(lot('M-LATE', later, 10))).body.answer.kind).toBe('counted');
  expect((await at.scan(lot('M-SOON', soon, 6))).body.answer.kind).toBe('counted');
  const rows = (await lead.get('stock?words=MIT-STR-10&kind=dock')).body.rows;
  expect(rows.map((r: { lot: string; onHand: number }) => [r.lot, r.onHand])).toEqual([
    ['M-LATE', 10],
    ['M-SOON', 6],
  ]);
  // What lies elsewhere is counted away, so that only the two lots remain.
  for (const p of (await lead.get('stock?words=MIT-STR-10')).body.rows)
    if (p.kind !== 'dock' && p.kind !== 'quarantine')
      expect(
        (
          await lead.post('stock/counts', {
            key: v7(),
            place: p.place,
            seen: await seenIn(lead, p.place),
            lines: [{ sku: 'MIT-STR-10', lot: p.lot, counted: 0 }],
          })
        ).status,
      ).toBe(200);
  const free = (await productOf(lead, 'MIT-STR-10')).free;
  await bringIn(lead, [['LT-1', 'MIT-STR-10', free, '29.00']]);
  expect(await stageOf('LT-1')).toBe('Clear');
  // The demo's old lots, in quarantine, are swept first.
  await house.app.get(Expiry).sweep(new Date());
  // The lot that expires first becomes old while the order waits: its promise is withdrawn, and it says why.
  await house.db.run("UPDATE lot SET expiry = '2026-01-01' WHERE code = 'M-SOON'");
  expect(await house.app.get(Expiry).sweep(new Date())).toBe(1);
  expect(await stageOf('LT-1')).toBe('Short');
  const story = (await lead.get(`orders/${await idOfOrder(lead, 'LT-1')}`)).body.history;
  expect(JSON.stringify(story)).toMatch(/promised to it are not there: lot M-SOON expired on 2026-01-01\./);
  const expired = (await lead.get('stock?words=MIT-STR-10&expiring=yes')).body.rows;
  const old = expired.filter((r: { state: string }) => r.state === 'expired');
  expect(old.map((r: { lot: string; kind: string }) => [r.lot, r.kind])).toEqual([
    ['M-SOON', 'dock'],
    [expect.any(String), 'quarantine'],
  ]);
  expect(await differences(house)).toEqual([]);
  await bringIn(lead, [['LT-2', 'MIT-STR-10', 2, '29.00']]);
  // The older order keeps its rest; one of the two is Clear only with what has not expired.
  const clear = (await lead.get('orders?stage=Clear&words=LT-2')).body.rows;
  for (const o of clear) {
    const list = await listAndPick(lead, [o.id]);
    const stops = await house.db.rows<{ code: string }>(
      'SELECT l.code FROM pickStop s JOIN pickList p ON p.id = s.listId JOIN lot l ON l.id = s.lotId WHERE p.no = ?',
      [list.slice(3)],
    );
    expect(stops.every(s => s.code !== 'M-SOON')).toBe(true);
  }
});

test('two people receive one order at the same time: nothing is counted twice, nothing lost', async () => {
  const at = await dock([['JAR-HEX-09', 40]]);
  const code = await codeOf('JAR-HEX-09');
  const before = (await productOf(lead, 'JAR-HEX-09')).onHand;
  const hands = (device: string, by: Caller) =>
    Promise.all(Array.from({ length: 20 }, () => at.scan(code, device, by)));
  const answers = (await Promise.all([hands('a', lead), hands('b', picker)])).flat();
  expect(answers.every(a => a.status === 200)).toBe(true);
  const view = (await lead.get(`receiving/sessions/${at.session}`)).body;
  expect(view.state.lines[0].received).toBe(40);
  expect(view.orderState).toBe('done');
  expect((await productOf(lead, 'JAR-HEX-09')).onHand).toBe(before + 40);
  expect((await at.scan(code, 'a')).body.answer.says).toMatch(/surplus/);
});

test('a scan by mistake is undone: the goods leave, and whoever was promised them is Short again and says why', async () => {
  const free = (await productOf(lead, 'SMK-4-ST')).free;
  await bringIn(lead, [['UN-1', 'SMK-4-ST', free, '30.00']]);
  await bringIn(lead, [['UN-2', 'SMK-4-ST', 1, '30.00']]);
  const at = await dock([['SMK-4-ST', 5]]);
  await at.scan(await codeOf('SMK-4-ST'));
  expect(await stageOf('UN-2')).toBe('Clear');
  expect((await at.scan('AUK-UNDO')).body.answer.says).toMatch(/not received/);
  expect(await stageOf('UN-2')).toBe('Short');
  const end = await lead.post(`receiving/${at.no}/end`);
  expect(end.status).toBe(200);
  const closed = await at.scan(await codeOf('SMK-4-ST'));
  expect([closed.status, closed.body.detail]).toEqual([422, expect.stringMatching(/was closed meanwhile/)]);
});

test('a product that is on a purchase order is not deleted', async () => {
  await lead.post('products', { sku: 'AWAITED-1', fields: { name: 'Awaited', stage: 'Live' } });
  await dock([['AWAITED-1', 2]]);
  await lead.post('products/edit', { skus: ['AWAITED-1'], fields: { stage: 'Retired' } });
  const gone = await lead.post('products/AWAITED-1/remove');
  expect([gone.status, (await lead.get('products/AWAITED-1')).status]).toEqual([422, 200]);
});

test('purchase orders that cannot be are refused whole', async () => {
  const post = (body: object) =>
    lead.post('receiving', {
      key: v7(),
      supplier: 'S',
      lines: [{ sku: 'JAR-HEX-12', quantity: 1 }],
      ...body,
    });
  expect((await post({ lines: [{ sku: 'NO-SUCH', quantity: 1 }] })).status).toBe(404);
  expect((await post({ lines: [{ sku: 'SET-HARV', quantity: 1 }] })).body.detail).toMatch(/is a bundle/);
  expect((await post({ lines: [{ sku: 'JAR-HEX-12', quantity: 0 }] })).status).toBe(400);
  expect((await post({ expected: '2026-02-31' })).status).toBe(400);
  expect((await post({ reference: 'R-1' })).status).toBe(200);
  expect((await post({ reference: 'R-1' })).status).toBe(409);
  const key = v7();
  const twice = [await post({ key }), await post({ key })];
  expect(twice[0]!.body.no).toBe(twice[1]!.body.no);
  expect(
    (
      await picker.post('receiving', {
        key: v7(),
        supplier: 'S',
        lines: [{ sku: 'JAR-HEX-12', quantity: 1 }],
      })
    ).status,
  ).toBe(403);
});
