import { INBOUND_STAGES } from '@auk/core';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { InboundDemo } from '../src/demo/inbound.js';
import { type Caller, differences, type House, openHouse } from './house.js';

let house: House;
let lead: Caller;
beforeAll(async () => {
  house = await openHouse('small');
  lead = await house.signIn('AB-1001');
});
afterAll(() => house.close());

test('the demo has a shipment in each stage, one with another code, one counted short, one spread with a center that refuses', async () => {
  const at = `http://127.0.0.1:${house.standinsPort}`;
  const n = await house.app.get(InboundDemo).load(at, { personId: null, at: new Date() }, '2031-01-31');
  const rows = (await lead.get('inbound')).body;
  expect(rows).toHaveLength(n);
  // Open ones first, then those that are done.
  expect(new Set(rows.map((r: { stage: string }) => r.stage))).toEqual(new Set(INBOUND_STAGES));
  expect(rows.slice(-2).map((r: { stage: string }) => r.stage)).toEqual(['Cancelled', 'Closed']);
  const troubles = rows.map((r: { trouble: string }) => r.trouble);
  expect(troubles).toContain('1 difference to decide');
  expect(troubles).toContain('Fernway Centers says: It takes nothing before 4 January.');
  const names = new Set(rows.map((r: { name: string }) => r.name));
  expect(names.size).toBe(n);
  const draft = rows.find((r: { stage: string }) => r.stage === 'Draft');
  const { sections } = (await lead.get(`inbound/${draft.no}`)).body;
  expect(sections.find((s: { section: string }) => s.section === 'codes').says).toContain(
    'JAR-HEX-12 has another code there',
  );
  expect((await lead.get('inbound/networks')).body).toEqual({
    networks: ['Fernway Centers', 'Nordhavn Lager'],
    prefix: '952000112',
  });
  expect((await lead.post('inbound/prefix', { prefix: '12' })).status).toBe(400);
  expect((await lead.post('inbound/prefix', { prefix: '9520001' })).status).toBe(200);
  expect(await differences(house)).toEqual([]);
});
