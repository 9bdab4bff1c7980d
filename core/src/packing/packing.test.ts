import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { sampleProduct } from '../catalog/scanProduct.sample.js';
import { carried, type Scan } from '../scans/scan.js';
import { learnedWeight } from './learnedWeight.js';
import { samplePackLine } from './packLine.sample.js';
import {
  askingHint,
  type BenchBox,
  expectedMg,
  openPack,
  type PackLine,
  type PackState,
  packClosed,
  packDone,
} from './packState.js';
import { packScan, packSerial } from './session.js';

let count = 0;
const scan = (text: string, known?: Scan['known']): Scan => ({
  id: String(++count),
  text,
  at: '2026-11-23T08:00:00.000Z',
  device: 'd',
  count,
  ...(known && { known }),
});
const product = (sku: string) => sampleProduct(sku, 3);
const line = (id: string, sku: string, wanted: number, more: Partial<PackLine> = {}) =>
  samplePackLine(id, product(sku), wanted, more);
const KIT = line('k', 'HIVEKIT', 2, {
  kitParts: [
    { product: product('BODY'), perKit: 1, scanned: 0 },
    { product: product('FRAME'), perKit: 2, scanned: 0 },
  ],
});
const SET = { id: 'set', name: 'Harvest set', codes: ['SETHARV'] };
const lines = () => [
  line('a', 'JARHEX', 3),
  KIT,
  line('b', 'KNIFE', 1, { bundle: { ...SET, each: 1 } }),
  line('c', 'BUCKET', 2, { bundle: { ...SET, each: 2 } }),
];
const BOXES: BenchBox[] = [
  {
    code: 'BX-1',
    name: 'B1',
    tareMg: 100_000,
    limitMg: 5_000_000,
    inner: { length: 2_000, width: 1_000, height: 1_000 },
    kind: 'box',
  },
  {
    code: 'BX-2',
    name: 'B2',
    tareMg: 100_000,
    limitMg: 5_000_000,
    inner: { length: 500, width: 500, height: 500 },
    kind: 'box',
  },
];
const open = (of: PackLine[] = lines(), more: Partial<Parameters<typeof openPack>[0]> = {}) =>
  openPack({ orderNo: 'OR-1', lines: of, boxes: BOXES, ...more });
const play = (texts: string[], from: PackState = open()) => {
  let step: ReturnType<typeof packScan> | null = null;
  for (const text of texts) step = packScan(step?.state ?? from, scan(text));
  return step!;
};
const saysOf = (texts: string[], from?: PackState) => play(texts, from).answer.says;

test('right, surplus, wrong and unknown', () => {
  expect(play(['JARHEX']).answer.says).toBe('Right. 1 of 3 jarhex.');
  expect(play(['CASE-JARHEX']).state.lines[0]!.packed).toBe(3);
  expect(play(['CASE-JARHEX', 'JARHEX']).answer.says).toBe('One too many: 3 of 3 jarhex are in already.');
  expect(play(['JARHEX', 'CASE-JARHEX']).answer.says).toBe('That code counts 3, and only 2 are missing.');
  expect(packScan(open(), scan('BOOK', { kind: 'product', name: 'Book' })).answer.says).toBe(
    'Not in this order: Book.',
  );
  expect(play(['what\tis']).answer.tone).toBe('wrong');
});

test('a kit by its own code or by its parts', () => {
  expect(play(['HIVEKIT']).effects).toEqual([{ type: 'pack', parcel: 1, lineId: 'k', units: 1 }]);
  expect(play(['BODY', 'FRAME']).state.lines[1]!.packed).toBe(0);
  const whole = play(['BODY', 'FRAME', 'FRAME']);
  expect(whole.effects).toEqual([{ type: 'pack', parcel: 1, lineId: 'k', units: 1 }]);
  expect(whole.state.lines[1]).toMatchObject({ packed: 1 });
  expect(play(['BODY', 'BODY']).answer.says).toBe('One too many: hivekit has its 1 body.');
  const undone = packScan(whole.state, scan('AUK-UNDO'));
  expect(undone.effects).toEqual([{ type: 'pack', parcel: 1, lineId: 'k', units: -1 }]);
  expect(undone.state.lines[1]!.kitParts.map(k => k.scanned)).toEqual([1, 1]);
  expect(play(['HIVEKIT', 'BODY', 'HIVEKIT']).answer.says).toContain('was begun by its parts');
});

test('a bundle by its own code or piece by piece', () => {
  expect(play(['SETHARV']).effects).toEqual([
    { type: 'pack', parcel: 1, lineId: 'b', units: 1 },
    { type: 'pack', parcel: 1, lineId: 'c', units: 2 },
  ]);
  expect(play(['BUCKET', 'SETHARV']).answer.tone).toBe('wrong');
});

test('a parcel is closed only whole, boxed and weighed', () => {
  expect(play(['AUK-CLOSE']).answer.says).toBe('8 pieces still missing; the parcel cannot be closed.');
  const full = play(['CASE-JARHEX', 'HIVEKIT', 'HIVEKIT', 'SETHARV']);
  expect(packDone(full.state)).toBe(true);
  expect(packScan(full.state, scan('AUK-CLOSE')).answer.says).toBe('No box is chosen.');
  expect(play(['BX-9'], full.state).answer.says).toBe('There is no box BX-9.');
  expect(play(['BX-1', '6 kg'], full.state).answer.tone).toBe('wrong');
  const closed = play(['BX-1', '4.1 kg', 'AUK-LABEL'], full.state);
  expect(closed.effects).toEqual([{ type: 'close', parcel: 1, last: true }]);
  expect(packClosed(closed.state)).toBe(true);
  expect(play(['AUK-UNDO'], closed.state).answer.tone).toBe('wrong');
});

describe('several parcels', () => {
  const jars = () => open([line('a', 'JAR', 3)], { proposed: ['BX-1', 'BX-2'] });

  test('each keeps its own units, box and weight; the last one closes the order', () => {
    const two = play(['JAR', 'JAR', 'AUK-NEXTBOX'], jars());
    expect(two.answer.says).toBe('The parcel has no weight yet; the label needs one.');
    const next = play(['1.1 kg', 'AUK-NEXTBOX'], two.state);
    expect(next.effects).toEqual([
      { type: 'close', parcel: 1, last: false },
      { type: 'next parcel', parcel: 2 },
    ]);
    expect(next.state.parcels).toEqual([
      { no: 1, boxCode: 'BX-1', weightMg: 1_100_000, closed: true, photos: 0, holds: { a: 2 } },
      { no: 2, boxCode: 'BX-2', weightMg: null, closed: false, photos: 0, holds: {} },
    ]);
    expect(saysOf(['AUK-UNDO'], next.state)).toBe('There is nothing to undo.');
    expect(saysOf(['AUK-NEXTBOX'], next.state)).toBe('Nothing is in this parcel yet.');
    const last = play(['JAR', '600 g', 'AUK-CLOSE'], next.state);
    expect(last.effects).toEqual([{ type: 'close', parcel: 2, last: true }]);
    expect(last.answer.says).toBe('Parcel 2 closed: the order is packed.');
  });

  test('another box is not needed when everything is in, and not taken while a kit is begun', () => {
    expect(saysOf(['CASE-JAR', 'AUK-NEXTBOX'], jars())).toContain('Everything is in');
    expect(saysOf(['JARHEX', 'BODY', 'AUK-NEXTBOX'])).toContain('A kit is begun');
  });

  test('a box is tried at once for what is in and what is missing', () => {
    expect(saysOf(['BX-1'], jars())).toBe('Box B1: all of it fits.');
    const small = play(['BX-2'], jars());
    expect(small.answer).toMatchObject({
      tone: 'attention',
      says: 'Box B2. Not all of it fits: too large. Scan NEXTBOX when it is full.',
    });
    const unknown = open([line('a', 'JAR', 1, { piece: { size: null, weightMg: 1 } })]);
    expect(saysOf(['BX-1'], unknown)).toContain('jar has no size');
  });

  test('a parcel that was taken open again is at hand', () => {
    const closed = play(['CASE-JAR', '1.6 kg', 'AUK-CLOSE'], jars()).state;
    const again = packScan(closed, { ...scan(''), news: { kind: 'reopened', parcel: 1 } });
    expect(again.answer.says).toBe('Parcel 1 is open again.');
    expect(play(['1.6 kg', 'AUK-CLOSE'], again.state).effects).toEqual([
      { type: 'close', parcel: 1, last: true },
    ]);
  });
});

describe('what is asked', () => {
  const wants = (w: PackLine['wants'], wanted = 2) => open([line('a', 'SCALE', wanted, { wants: w })]);
  const GS1 = '(01)04012345678901(21)AB123456(10)L7(17)270531';

  test('notes before the first piece: by a scan or a word', () => {
    const noted = open(lines(), {
      notes: [
        { text: 'Wrap it twice.', word: null },
        { text: 'It is a gift.', word: 'gift' },
      ],
    });
    expect(play(['JARHEX'], noted).answer).toMatchObject({
      tone: 'wrong',
      says: 'Read this first: Wrap it twice.',
    });
    expect(saysOf(['AUK-YES', 'AUK-YES'], noted)).toBe('Read this first: It is a gift.');
    expect(saysOf(['AUK-YES', 'Gift', 'JARHEX'], noted)).toBe('Right. 1 of 3 jarhex.');
  });

  test('a warning once, a serial number for each, undone with its unit', () => {
    const state = wants({ warning: 'Hold it upright.', serial: 'AA999999' });
    expect(play(['SCALE'], state).answer).toMatchObject({
      kind: 'asked',
      tone: 'attention',
      says: 'Read this: Hold it upright.',
    });
    expect(saysOf(['SCALE', 'SCALE'], state)).toBe('Read this first: Hold it upright.');
    expect(saysOf(['SCALE', 'AUK-YES'], state)).toBe('The serial number of scale?');
    expect(saysOf(['SCALE', 'AUK-YES', 'SCALE'], state)).toBe('That is the code of scale itself.');
    expect(saysOf(['SCALE', 'AUK-YES', 'AB12'], state)).toBe(
      'AB12 is no serial number of the form AA999999.',
    );
    const one = play(['SCALE', 'AUK-YES', 'AB123456'], state);
    expect(one.effects).toEqual([
      { type: 'pack', parcel: 1, lineId: 'a', units: 1 },
      { type: 'capture', captured: { n: 1, line: 'a', parcel: 1, serial: 'AB123456' }, takenBack: false },
    ]);
    expect(saysOf(['SCALE', 'AB123456'], one.state)).toBe('AB123456 is in this order already.');
    expect(
      packScan(play(['SCALE'], one.state).state, scan('AB123457', { kind: 'serial', name: 'OR-7' })).answer
        .says,
    ).toBe('AB123457 left with OR-7 and did not come back.');
    const undone = packScan(one.state, scan('AUK-UNDO'));
    expect(undone.effects).toContainEqual({
      type: 'capture',
      captured: one.state.captured[0],
      takenBack: true,
    });
    expect(undone.state.captured).toEqual([]);
    expect(saysOf(['SCALE', 'AUK-YES', 'AUK-UNDO'], state)).toBe('Undone: scale is not in.');
    expect(saysOf(['CASE-SCALE'], wants({ serial: '' }, 3))).toContain('has serial numbers');
  });

  test('lot, expiry and an answer; a lot that was not picked is refused', () => {
    const state = wants({ lot: ['L7', 'L8'], expiry: true, question: 'Which colour?' });
    expect(saysOf(['SCALE', 'L9'], state)).toBe('Lot L9 was not picked for this order: L7 and L8 were.');
    expect(saysOf(['SCALE', 'l8', '2020-01-31'], state)).toBe('It expired on 2020-01-31.');
    expect(saysOf(['SCALE', 'l8', 'soon'], state)).toBe('soon is no day such as 2027-05-31 or 05/2027.');
    expect(play(['SCALE', 'l8', '2028-02', 'green'], state).state.captured).toEqual([
      { n: 1, line: 'a', parcel: 1, lot: 'L8', expiry: '2028-02-29', answer: 'green' },
    ]);
    expect(saysOf(['SCALE', 'x'.repeat(61)], state)).toBe('That has 61 characters; 60 are the most.');
  });

  test('what was picked from one lot is of that lot, unless its code says another', () => {
    const state = wants({ lot: ['L7'] });
    expect(play(['SCALE'], state).state.captured).toEqual([{ n: 1, line: 'a', parcel: 1, lot: 'L7' }]);
    expect(saysOf(['SCALE'], wants({ lot: [] }))).toBe('Which lot of scale?');
  });

  test('a code that holds them tells them', () => {
    const state = wants({ serial: '', lot: ['L7'], expiry: true });
    state.lines[0]!.product.codes.push({ code: '04012345678901', units: 1 });
    expect(packSerial(state, scan(GS1))).toEqual({ productId: 'SCALE', serial: 'AB123456' });
    const read = play([GS1], state);
    expect(read.state.captured).toEqual([
      { n: 1, line: 'a', parcel: 1, serial: 'AB123456', lot: 'L7', expiry: '2027-05-31' },
    ]);
    expect(saysOf([GS1.replace('L7', 'L9')], state)).toContain('Lot L9 was not picked');
  });

  test('what has a parcel of its own goes in with something else only when whoever packs says so', () => {
    let s = open([line('a', 'JARHEX', 2), line('b', 'ANVIL', 2, { apart: '2' })]);
    const send = (text: string) => {
      const step = packScan(s, scan(text));
      s = step.state;
      return step;
    };
    send('JARHEX');
    const asked = send('ANVIL');
    expect(asked.answer).toMatchObject({ kind: 'asked', says: 'anvil has a parcel of its own.' });
    expect(asked.effects).toEqual([]);
    expect(send('JARHEX').answer.says).toBe('First this: anvil has a parcel of its own.');
    // The open parcel is boxed, weighed and closed first; the piece is scanned again into the next.
    for (const text of ['BX-1', '2 lb', 'AUK-YES', 'AUK-NEXTBOX']) send(text);
    expect(s.parcels).toMatchObject([
      { closed: true, holds: { a: 1 } },
      { closed: false, holds: {} },
    ]);
    expect(send('ANVIL').answer.kind).toBe('counted');
    // More of it goes in beside it; another thing is asked about, and called off or put in all the same.
    expect(send('ANVIL').answer.kind).toBe('counted');
    expect(send('JARHEX').answer.says).toBe('anvil has a parcel of its own.');
    expect(send('AUK-UNDO').answer.says).toBe('Undone: jarhex is not in.');
    send('JARHEX');
    expect(send('AUK-YES').answer).toMatchObject({ kind: 'complete', says: 'Everything is in.' });
    expect(s.parcels[1]).toMatchObject({ holds: { a: 1, b: 2 } });
  });

  test('a weight that is far off is asked about, in pieces', () => {
    const full = play(['CASE-JAR', 'BX-1'], open([line('a', 'JAR', 3)])).state;
    expect(expectedMg(full)).toBe(1_600_000);
    const light = play(['1.1 kg'], full);
    expect(light.answer).toMatchObject({ kind: 'asked', says: '2 lb 6.8 oz is about one jar too light.' });
    expect(saysOf(['2.7 kg'], full)).toContain('2 jar too heavy');
    expect(saysOf(['AUK-CLOSE'], light.state)).toBe('First this: 2 lb 6.8 oz is about one jar too light.');
    expect(play(['AUK-YES'], light.state).state.parcels[0]!.weightMg).toBe(1_100_000);
    expect(play(['1.6 kg'], light.state).state).toMatchObject({
      asking: null,
      parcels: [{ weightMg: 1_600_000 }],
    });
    expect(play(['1.62 kg'], full).answer.tone).toBe('right');
  });
});

describe('a plan says what lies in which box', () => {
  const planned = () =>
    open([line('a', 'JARHEX', 4), line('b', 'KNIFE', 2)], {
      proposed: ['BX-1', 'BX-1'],
      planned: [
        { a: 3, b: 1 },
        { a: 1, b: 1 },
      ],
    });

  test('all the rest of a line is what the plan wants in this box', () => {
    const { state } = play(['JARHEX', 'AUK-ALL'], planned());
    expect(state.parcels[0]!.holds).toEqual({ a: 3 });
  });

  test('what goes into another box by the plan is asked about; YES puts it in all the same', () => {
    const asked = play(['JARHEX', 'AUK-ALL', 'JARHEX'], planned());
    expect(asked.answer).toMatchObject({ kind: 'asked', tone: 'attention' });
    expect(asked.answer.says).toContain('no more jarhex lie in this box; the next in box 2');
    expect(play(['AUK-YES'], asked.state).state.parcels[0]!.holds).toEqual({ a: 4 });
  });

  test('a slip that is scanned while something is asked is refused with the question', () => {
    const { state } = play(['JARHEX', 'AUK-ALL', 'JARHEX'], planned());
    const slip = play(['OR-7'], state);
    expect(slip.answer).toMatchObject({ kind: 'refused', next: askingHint(state, state.asking!) });
    expect(slip.answer.says).toContain('First this: By the plan no more jarhex lie in this box');
    expect(slip.state).toEqual(state);
  });

  test('one box holds one lot: another one is asked about first', () => {
    const lotted = open([line('a', 'JARHEX', 4, { wants: { lot: ['L-1', 'L-2'] } })], {
      proposed: ['BX-1'],
      planned: [{ a: 4 }],
    });
    const one = play(['JARHEX', 'L-1'], lotted);
    expect(one.state.parcels[0]!.holds).toEqual({ a: 1 });
    const other = play(['JARHEX', 'L-2'], one.state);
    expect(other.answer.says).toContain('Lot L-1 of jarhex lies in this box');
    expect(play(['AUK-YES'], other.state).state.parcels[0]!.holds).toEqual({ a: 2 });
    expect(play(['JARHEX', 'L-1'], one.state).state.parcels[0]!.holds).toEqual({ a: 2 });
  });

  test('a box that is as planned says so, is weighed against what is in it, and the next one wants its own', () => {
    const full = play(['JARHEX', 'AUK-ALL', 'KNIFE'], planned());
    expect(full.answer.next).toContain('This box is as planned.');
    expect(play(['3.2 kg'], full.state).answer.tone).toBe('attention');
    const next = play([`${expectedMg(full.state)! / 1_000} g`, 'AUK-NEXTBOX'], full.state);
    expect(next.state.parcels).toHaveLength(2);
    expect(next.answer.next).toContain('into this box');
    const done = play(['JARHEX', 'KNIFE'], next.state);
    expect(packDone(done.state)).toBe(true);
  });
});

describe('left out, all the rest, changed', () => {
  test('what may be left out goes in, or is left out by its code', () => {
    const state = open([line('a', 'JAR', 1), line('s', 'SEED', 2, { optional: true })]);
    expect(play(['JAR'], state).answer).toMatchObject({
      tone: 'row',
      says: 'All that must go in is in. What is left may be left out.',
    });
    expect(saysOf(['JAR', 'BX-1', '600 g', 'AUK-CLOSE'], state)).toBe('2 pieces of seed may go along.');
    const without = play(['JAR', 'SEED', 'AUK-WITHOUT'], state);
    expect(without.effects).toEqual([{ type: 'leave out', lineId: 's', units: 1 }]);
    expect(packDone(without.state)).toBe(true);
    expect(saysOf(['SEED'], without.state)).toBe('seed was left out.');
    expect(play(['AUK-UNDO'], without.state).effects).toEqual([
      { type: 'leave out', lineId: 's', units: -1 },
    ]);
    expect(saysOf(['AUK-WITHOUT'])).toBe('Nothing of this order may be left out.');
  });

  test('all the rest of the line at hand, unless something is asked of each', () => {
    expect(play(['JARHEX', 'AUK-ALL']).effects).toEqual([{ type: 'pack', parcel: 1, lineId: 'a', units: 2 }]);
    expect(saysOf(['AUK-ALL'], open([line('a', 'SCALE', 2, { wants: { serial: '' } })]))).toContain(
      'Something is asked',
    );
  });

  test('a weight counts for what lay in the box when it was weighed', () => {
    const weighed = play(['JAR', 'BX-1', '700 g'], open([line('a', 'JAR', 2)])).state;
    expect(weighed.parcels[0]!.weightMg).toBe(700_000);
    expect(play(['JAR'], weighed).state.parcels[0]!.weightMg).toBeNull();
    expect(saysOf(['JAR', 'AUK-CLOSE'], weighed)).toBe('The parcel has no weight yet; the label needs one.');
  });

  test('a photo of the open box, where it is wanted', () => {
    const choices = { checkOnly: true, photo: true, toleranceMg: 0, tolerancePpm: 0, padding: 0 };
    const state = open([line('a', 'JAR', 1)], { choices });
    expect(saysOf(['JAR', 'AUK-CLOSE'], state)).toBe('A photo of the open box is wanted.');
    expect(saysOf(['JAR', 'AUK-PHOTO'], state)).toBe('The photo is kept.');
    expect(play(['JAR', 'AUK-PHOTO', 'AUK-CLOSE'], state).effects).toEqual([
      { type: 'close', parcel: 1, last: true },
    ]);
  });

  test('only checked: closed without box and weight', () => {
    const state = open([line('a', 'JAR', 1)], {
      choices: { checkOnly: true, photo: false, toleranceMg: 0, tolerancePpm: 0, padding: 0 },
    });
    expect(play(['JAR', 'AUK-CLOSE'], state).effects).toEqual([{ type: 'close', parcel: 1, last: true }]);
  });

  test('the office takes one away and adds one: scans are kept, the one too many is taken out by its code', () => {
    const packed = play(['JARHEX', 'JARHEX', 'JARHEX']).state;
    const changed = packScan(packed, {
      ...scan(''),
      news: {
        kind: 'lines',
        lines: [line('a', 'JARHEX', 2), KIT, line('n', 'SEED', 1)],
        says: ['2 jarhex instead of 3'],
      },
    });
    expect(changed.answer).toMatchObject({
      tone: 'attention',
      says: 'The order was changed: 2 jarhex instead of 3.',
      next: 'Take 1 × jarhex out and scan it.',
    });
    const out = play(['JARHEX'], changed.state);
    expect(out.effects).toEqual([{ type: 'pack', parcel: 1, lineId: 'a', units: -1 }]);
    expect(out.answer.says).toBe('jarhex is out again.');
    expect(out.state.lines.map(l => l.id)).toEqual(['a', 'k', 'n']);
  });

  test('of units with serial numbers the one that comes out is named by its own, and what was told of it goes', () => {
    const scale = (wanted: number) => line('a', 'SCALE', wanted, { wants: { serial: 'HS-99' } });
    const packed = play(['SCALE', 'HS-01', 'SCALE', 'HS-02'], open([scale(2)])).state;
    const fewer = (n: number) =>
      packScan(packed, { ...scan(''), news: { kind: 'lines', lines: n ? [scale(n)] : [], says: ['fewer'] } })
        .state;
    expect(saysOf(['SCALE'], fewer(1))).toBe('Which scale comes out? One of them stays.');
    const out = play(['HS-01'], fewer(1));
    expect(out.answer).toMatchObject({ tone: 'complete', says: 'scale is out again. Everything is in.' });
    expect(out.effects).toEqual([
      { type: 'pack', parcel: 1, lineId: 'a', units: -1 },
      { type: 'capture', captured: expect.objectContaining({ serial: 'HS-01' }), takenBack: true },
    ]);
    expect(out.state.captured.map(c => c.serial)).toEqual(['HS-02']);
    expect(play(['SCALE', 'SCALE'], fewer(0)).state.captured).toEqual([]);
    // What lies in a closed parcel is not taken out of the open one.
    const second = play(['JAR', 'BX-1', '800 g', 'AUK-NEXTBOX'], open([line('a', 'JAR', 2)])).state;
    const none = packScan(second, { ...scan(''), news: { kind: 'lines', lines: [], says: ['none'] } }).state;
    expect(saysOf(['JAR'], none)).toBe('jar is not in parcel 2, which is open.');
  });

  test('a wrong piece is named, with whose it is and what it looks like', () => {
    const known = {
      kind: 'product',
      name: 'Jar, 9 oz',
      wantedBy: { order: 'OR-8', lies: 'tote 4' },
      looksLike: 'jarhex',
    } as const;
    expect(packScan(open(), scan('BOOK', known)).answer).toMatchObject({
      says: 'Not in this order: Jar, 9 oz.',
      next: 'OR-8 wants it: put it into tote 4. It looks like jarhex, which is wanted: read the label.',
    });
    expect(packScan(open(), scan('BOOK', { kind: 'product', name: 'Book', retired: true })).answer.says).toBe(
      'Not in this order: Book. It is retired.',
    );
  });
});

test('a parcel of one product says what one of it weighs, when that is not what is kept', () => {
  const closed = (texts: string[], of = [line('a', 'JAR', 3)]) =>
    play([...texts, 'AUK-CLOSE'], open(of)).state;
  expect(learnedWeight(closed(['CASE-JAR', 'BX-1', '1.9 kg', 'AUK-YES']), 1)).toEqual({
    productId: 'JAR',
    mg: 600_000,
  });
  expect(learnedWeight(closed(['CASE-JAR', 'BX-1', '1.62 kg']), 1)).toBeNull();
  const two = [line('a', 'JAR', 1), line('b', 'SEED', 1)];
  expect(learnedWeight(closed(['JAR', 'SEED', 'BX-1', '3 kg', 'AUK-YES'], two), 1)).toBeNull();
  const unknown = [line('a', 'JAR', 1, { piece: null })];
  expect(learnedWeight(closed(['JAR', 'BX-1', '700 g'], unknown), 1)).toEqual({
    productId: 'JAR',
    mg: 600_000,
  });
});

test('a session of one parcel goes over', () => {
  const before = {
    kind: 'pack',
    orderNo: 'OR-1',
    lines: [{ id: 'a', product: product('JAR'), wanted: 2, packed: 1, kitParts: [], bundle: null }],
    boxes: [{ code: 'BX-1', name: 'B1', tareMg: 1, limitMg: 5_000_000 }],
    boxCode: 'BX-1',
    weightMg: null,
    closed: false,
    notes: ['Wrap it.'],
    confirmed: true,
    history: [[{ line: 0, units: 1 }]],
  };
  const state = carried<PackState>(before as never, 5)!;
  expect(state.parcels).toEqual([
    { no: 1, boxCode: 'BX-1', weightMg: null, closed: false, photos: 0, holds: { a: 1 } },
  ]);
  expect(play(['JAR', '1 kg', 'AUK-CLOSE'], state).effects).toEqual([
    { type: 'close', parcel: 1, last: true },
  ]);
  expect(play(['AUK-UNDO'], state).effects).toEqual([{ type: 'pack', parcel: 1, lineId: 'a', units: -1 }]);
});

test('whatever is scanned: counts stay within what is wanted, effects add up, undoing all gives the opening state', () => {
  const text = fc.constantFrom(
    'JARHEX',
    'CASE-JARHEX',
    'HIVEKIT',
    'BODY',
    'FRAME',
    'CASE-FRAME',
    'SETHARV',
    'KNIFE',
    'BUCKET',
    'AUK-UNDO',
    'AUK-ALL',
    'AUK-WITHOUT',
    'AUK-YES',
    'AUK-NEXTBOX',
    'AUK-PHOTO',
    'SCALE',
    'S-1',
    'S-2',
    'SEED',
    'BX-1',
    '3 kg',
    'x',
  );
  const start = () =>
    open([
      ...lines(),
      line('s', 'SCALE', 2, { wants: { serial: 'A-9', warning: 'Careful.' } }),
      line('o', 'SEED', 2, { optional: true }),
    ]);
  fc.assert(
    fc.property(fc.array(text, { maxLength: 40 }), texts => {
      let state = start();
      const sum = new Map<string, number>();
      let same = true;
      const run = (t: string) => {
        const [before, made] = [state, scan(t)];
        const step = packScan(state, made);
        for (const e of step.effects)
          if (e.type === 'pack') sum.set(e.lineId, (sum.get(e.lineId) ?? 0) + e.units);
        state = step.state;
        const again = packScan(before, made);
        same &&= JSON.stringify(again) === JSON.stringify(step);
      };
      texts.forEach(run);
      const within = state.lines.every(
        l =>
          l.packed >= 0 &&
          l.packed + l.leftOut <= l.wanted &&
          l.packed === state.parcels.reduce((n, p) => n + (p.holds[l.id] ?? 0), 0) &&
          l.kitParts.every(k => k.scanned >= 0 && k.scanned <= k.perKit) &&
          (sum.get(l.id) ?? 0) === l.packed,
      );
      const serials = state.captured.map(c => c.serial);
      const told =
        new Set(serials).size === serials.length &&
        serials.length === state.lines.find(l => l.id === 's')!.packed;
      const [closed, asked] = [state.parcels.length - 1, state.asking !== null];
      if (asked) run('AUK-UNDO');
      while (state.history.length > 0) run('AUK-UNDO');
      const bare = {
        ...state,
        parcels: state.parcels.map(p => ({ ...p, boxCode: null, weightMg: null, photos: 0 })),
        at: null,
      };
      return within && same && told && (closed > 0 || JSON.stringify(bare) === JSON.stringify(start()));
    }),
    { numRuns: 400 },
  );
});
