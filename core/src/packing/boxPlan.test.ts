import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Size } from '../units/units.js';
import { type Box, type Piece, type Placed, spacesOf, waysToLie } from './boxes.js';
import { planBoxes, tryBox } from './boxPlan.js';
import { checkBoxPlan } from './checkBoxPlan.js';
import { lookingAhead } from './fillAhead.js';

const size = (length: number, width: number, height: number): Size => ({ length, width, height });
const box = (code: string, inner: Size, more: Partial<Box> = {}): Box => ({
  code,
  name: code,
  inner,
  tareMg: 100,
  limitMg: 20_000_000,
  priceMinor: 50,
  ...more,
});
const piece = (id: string, of: Size, more: Partial<Piece> = {}): Piece => ({
  id,
  size: of,
  weightMg: 1_000,
  quantity: 1,
  ...more,
});
const BOXES = [
  box('POUCH', size(3_000, 2_000, 400), { kind: 'mailer', priceMinor: 20, limitMg: 2_000_000 }),
  box('S', size(1_500, 1_000, 1_000), { priceMinor: 30 }),
  box('M', size(3_000, 2_000, 1_500), { priceMinor: 60 }),
  box('L', size(5_000, 4_000, 3_000), { priceMinor: 120 }),
];
const parcel = (box: Box, placed: Placed[]) => [{ box, placed }];
const at = (p: Piece, x: number, y: number, z: number, of = p.size): Placed => ({
  piece: p,
  x,
  y,
  z,
  size: of,
});

const anyPiece = (id: number): fc.Arbitrary<Piece> =>
  fc
    .record({
      sides: fc.tuple(
        fc.integer({ min: 100, max: 2_400 }),
        fc.integer({ min: 50, max: 1_500 }),
        fc.integer({ min: 20, max: 900 }),
      ),
      weightMg: fc.integer({ min: 1_000, max: 9_000_000 }),
      quantity: fc.integer({ min: 1, max: 5 }),
      fragile: fc.boolean(),
      upright: fc.boolean(),
      foldable: fc.boolean(),
      alone: fc.boolean(),
      apart: fc.constantFrom(undefined, undefined, 'A', 'B'),
      most: fc.option(fc.integer({ min: 1, max: 4 })),
      rare: fc.integer({ min: 0, max: 3 }),
    })
    .map(({ sides: [a, b, c], rare, apart, ...p }) => ({
      ...p,
      ...(apart && { apart }),
      id: `P${id}`,
      size: size(a, b, c),
      fragile: p.fragile && rare === 0,
      foldable: p.foldable && rare === 1,
      alone: p.alone && rare === 2,
    }));
const anyPieces = fc
  .integer({ min: 1, max: 6 })
  .chain(n => fc.tuple(...Array.from({ length: n }, (_, i) => anyPiece(i))));

describe('every plan', () => {
  test('holds before the separate checker, and names what it leaves out', () => {
    fc.assert(
      fc.property(anyPieces, fc.integer({ min: 0, max: 100 }), (pieces, padding) => {
        const plan = planBoxes(BOXES, pieces, { padding, steps: 2_000 });
        const out = new Set(plan.unplaced.map(u => u.id));
        const wrong = checkBoxPlan(
          pieces.filter(p => !out.has(p.id)),
          plan.parcels,
          padding,
        );
        expect(wrong).toEqual([]);
        expect(plan.costMinor).toBe(plan.parcels.reduce((sum, p) => sum + p.box.priceMinor, 0));
      }),
      { numRuns: 150 },
    );
  });

  test('is the same for the same question', () => {
    fc.assert(
      fc.property(anyPieces, pieces => {
        expect(planBoxes(BOXES, pieces, { steps: 1_000 })).toEqual(
          planBoxes(BOXES, pieces, { steps: 1_000 }),
        );
      }),
      { numRuns: 20 },
    );
  });

  test('costs no more when there is one more kind of box', () => {
    fc.assert(
      fc.property(anyPieces, pieces => {
        const few = planBoxes(BOXES.slice(0, 3), pieces);
        const more = planBoxes(BOXES, pieces);
        if (few.unplaced.length === 0 && few.proven)
          expect(more.costMinor).toBeLessThanOrEqual(few.costMinor);
      }),
      { numRuns: 60 },
    );
  });
});

describe('one parcel or several', () => {
  test('the cheapest box that takes all, then the smallest, then the first', () => {
    expect(planBoxes(BOXES, [piece('a', size(900, 900, 900))]).parcels[0]!.box.code).toBe('S');
    const alike = [
      box('B', size(900, 900, 900)),
      box('A', size(900, 900, 900)),
      box('C', size(950, 900, 900)),
    ];
    expect(planBoxes(alike, [piece('a', size(900, 900, 900))]).parcels[0]!.box.code).toBe('B');
  });

  test('two boxes when that is cheaper, one when its way costs more than the second box', () => {
    const two = [piece('a', size(1_500, 1_000, 1_000), { quantity: 2 })];
    const cheap = planBoxes(
      [
        box('S', size(1_500, 1_000, 1_000), { priceMinor: 30 }),
        box('L', size(3_000, 1_000, 1_000), { priceMinor: 90 }),
      ],
      two,
    );
    expect(cheap.parcels.map(p => p.box.code)).toEqual(['S', 'S']);
    const dear = planBoxes(BOXES, two, { cost: b => 700 + b.priceMinor });
    expect(dear.parcels.map(p => p.box.code)).toEqual(['M']);
  });

  test('what ships alone, most units a parcel, weight limits and few boxes share it out', () => {
    const alone = planBoxes(BOXES, [
      piece('a', size(300, 300, 300), { quantity: 2, alone: true }),
      piece('b', size(300, 300, 300)),
    ]);
    expect(alone.parcels.map(p => p.placed.length)).toEqual([1, 1, 1]);
    const most = planBoxes(BOXES, [piece('a', size(300, 300, 300), { quantity: 9, most: 4 })]);
    expect(most.parcels.map(p => p.placed.length).sort()).toEqual([1, 4, 4]);
    const heavy = planBoxes(BOXES, [piece('a', size(300, 300, 300), { quantity: 3, weightMg: 15_000_000 })]);
    expect(heavy.parcels).toHaveLength(3);
    const scarce = BOXES.map(b => (b.code === 'S' ? { ...b, stock: 1 } : b));
    const left = planBoxes(scarce, [piece('a', size(900, 900, 900), { quantity: 2, alone: true })]);
    expect(left.parcels.map(p => p.box.code)).not.toContain('S');
  });

  test('what is kept apart has parcels of its own, also beside more of the same product', () => {
    const cup = (apart?: string) => piece('cup', size(300, 300, 300), { ...(apart && { apart }) });
    const plan = planBoxes(BOXES, [cup(), cup('line 2'), { ...cup('line 3'), quantity: 2 }]);
    const inside = plan.parcels.map(p => p.placed.map(q => q.piece.apart ?? '').join());
    expect(inside.sort()).toEqual(['', 'line 2', 'line 3,line 3']);
    expect(tryBox(BOXES.find(b => b.code === 'M')!, [cup(), cup('line 2')])).toEqual({
      fits: 'no',
      why: 'cup has a parcel of its own',
    });
  });

  test('three hundred of one line', () => {
    const plan = planBoxes(BOXES, [piece('a', size(400, 300, 250), { quantity: 300 })]);
    expect(checkBoxPlan([piece('a', size(400, 300, 250), { quantity: 300 })], plan.parcels)).toEqual([]);
    // 300 x 400 x 300 x 250 is 3000 x 2000 x 1500: they fill the box.
    expect(plan.parcels.map(p => p.box.code)).toEqual(['M']);
  });

  test('goods of which no kind of box takes all go each into what takes them', () => {
    const tube = box('TUBE', size(9_000, 800, 800), { priceMinor: 90 });
    const cube = box('CUBE', size(4_000, 4_000, 4_000), { priceMinor: 110 });
    const pouch = box('POUCH', size(3_000, 2_000, 400), { kind: 'mailer', priceMinor: 20 });
    const order = [
      piece('rod', size(8_500, 300, 300), { quantity: 9 }),
      piece('pot', size(3_500, 3_500, 3_000), { quantity: 2 }),
      piece('glass', size(900, 700, 700), { quantity: 30, fragile: true }),
    ];
    const plan = planBoxes([pouch, tube, cube], order);
    expect(checkBoxPlan(order, plan.parcels)).toEqual([]);
    expect(plan.unplaced).toEqual([]);
    // Four rods lie in a tube; pots stand alone, and glasses beside rods in the last tube or in the room that pots leave.
    expect(plan.parcels.filter(p => p.placed.some(q => q.piece.id === 'rod'))).toHaveLength(3);
    expect(plan.parcels.filter(p => p.box === cube).length).toBeGreaterThanOrEqual(2);
  });

  test('whatever boxes there are, all that goes into one of them is planned', () => {
    const anyBox = fc.record({
      inner: fc.record({
        length: fc.integer({ min: 300, max: 6_000 }),
        width: fc.integer({ min: 300, max: 3_000 }),
        height: fc.integer({ min: 200, max: 3_000 }),
      }),
      limitMg: fc.integer({ min: 1_000_000, max: 20_000_000 }),
      priceMinor: fc.integer({ min: 10, max: 90 }),
      kind: fc.constantFrom('box' as const, 'box' as const, 'mailer' as const),
    });
    fc.assert(
      fc.property(
        fc.array(anyBox, { minLength: 1, maxLength: 3 }),
        fc.array(anyPiece(0), { minLength: 2, maxLength: 5 }),
        fc.integer({ min: 1, max: 12 }),
        fc.constantFrom(0, 2),
        (kinds, some, times, looks) => {
          const order = some.map((p, i) => ({ ...p, id: `p${i}`, quantity: p.quantity * times }));
          const boxes = kinds.map(({ inner, ...more }, i) => box(`B${i}`, inner, more));
          const plan = planBoxes(boxes, order, {
            ...(looks > 0 && { fill: lookingAhead(looks) }),
            steps: 300,
          });
          const none = new Set(plan.unplaced.map(u => u.id));
          const planned = order.filter(p => !none.has(p.id));
          return checkBoxPlan(planned, plan.parcels).join('\n') === '';
        },
      ),
      { numRuns: 150 },
    );
  });

  test('many boxes of the same goods are filled alike, however many follow', () => {
    const jars = (quantity: number) => [
      piece('jar', size(700, 700, 900), { quantity }),
      piece('lid', size(700, 700, 100), { quantity }),
    ];
    const [few, many] = [3_000, 30_000].map(n => planBoxes([BOXES[3]!], jars(n), { fill: lookingAhead(3) }));
    const shape = (p: { placed: readonly Placed[] }) =>
      p.placed.map(q => `${q.piece.id} ${q.x} ${q.y} ${q.z}`).join();
    expect(shape(many!.parcels[0]!) === shape(few!.parcels[0]!)).toBe(true);
    expect(many!.parcels.flatMap(p => p.placed)).toHaveLength(60_000);
    // What is over at the end of each of the two is shared out otherwise.
    expect(many!.parcels.length).toBeLessThanOrEqual(11 * few!.parcels.length);
  });

  test('what fits no box is named, and the rest is planned', () => {
    const plan = planBoxes(BOXES, [
      piece('long', size(9_000, 100, 100)),
      piece('iron', size(900, 900, 900), { weightMg: 30_000_000 }),
      piece('jar', size(900, 900, 900)),
    ]);
    expect(plan.unplaced).toEqual([
      { id: 'long', why: 'It is larger than every box.' },
      { id: 'iron', why: 'No box that is large enough may carry it.' },
    ]);
    expect(plan.parcels.map(p => p.placed.map(q => q.piece.id))).toEqual([['jar']]);
  });
});

describe('how pieces lie', () => {
  test('heavy below, fragile on top with padding, upright as it stands', () => {
    const pieces = [
      piece('glass', size(1_400, 900, 300), { fragile: true, weightMg: 500_000 }),
      piece('iron', size(1_500, 1_000, 300), { weightMg: 8_000_000 }),
    ];
    const tried = tryBox(BOXES[1]!, pieces, { padding: 50 });
    expect(tried).toMatchObject({
      fits: 'yes',
      placed: [
        { piece: { id: 'iron' }, z: 0 },
        { piece: { id: 'glass' }, z: 300 },
      ],
    });
    expect(tryBox(BOXES[1]!, pieces, { padding: 60 })).toMatchObject({ fits: 'no' });
    expect(
      tryBox(box('LOW', size(900, 900, 300)), [piece('a', size(300, 300, 800), { upright: true })]),
    ).toEqual({ fits: 'no', why: 'too large' });
    expect(tryBox(box('LOW', size(900, 900, 300)), [piece('a', size(300, 300, 800))])).toMatchObject({
      fits: 'yes',
    });
  });

  test('a folded suit goes into a mailer, a jar never does', () => {
    const suit = piece('suit', size(4_000, 3_000, 100), { foldable: true });
    const pouch = box('POUCH', size(2_300, 1_900, 400), { kind: 'mailer' });
    expect(tryBox(pouch, [suit])).toMatchObject({ fits: 'no' });
    // Folded twice it is 2,000 x 1,500 x 400, and a pouch that is 400 thick is 400 shorter and narrower.
    expect(tryBox(box('POUCH', size(2_400, 1_900, 400), { kind: 'mailer' }), [suit])).toMatchObject({
      fits: 'yes',
    });
    expect(tryBox(pouch, [piece('jar', size(100, 100, 100), { fragile: true })])).toEqual({
      fits: 'no',
      why: 'fragile',
    });
    expect(spacesOf(pouch)[0]).toEqual(size(1_900, 1_500, 400));
    expect(waysToLie(suit)).toContainEqual(size(2_000, 1_500, 400));
  });
});

describe('the checker sees what is wrong', () => {
  const S = BOXES[1]!;
  const a = piece('a', size(500, 400, 300));
  const b = piece('b', size(500, 400, 300), { fragile: true });
  const cases: [string, Piece[], { box: Box; placed: Placed[] }[], string][] = [
    ['a piece that is missing', [a], parcel(S, []), '0 of 1 a are in a box.'],
    ['outside', [a], parcel(S, [at(a, 1_100, 0, 0)]), 'S: not all of it is inside.'],
    [
      'shared space',
      [{ ...a, quantity: 2 }],
      parcel(S, [at(a, 0, 0, 0), at(a, 499, 0, 0)]),
      'S: a and a share space.',
    ],
    [
      'in the air',
      [{ ...a, quantity: 2 }],
      parcel(S, [at(a, 0, 0, 0), at(a, 200, 0, 300)]),
      'S: a is not carried.',
    ],
    ['on glass', [a, b], parcel(S, [at(b, 0, 0, 0), at(a, 0, 0, 300)]), 'S: a rests on b, which is fragile.'],
    [
      'through another',
      [{ ...a, quantity: 2 }],
      parcel(S, [at(a, 0, 0, 300), at(a, 0, 0, 0)]),
      'S: a would have to pass through a.',
    ],
    [
      'another size',
      [a],
      parcel(S, [at(a, 0, 0, 0, size(400, 300, 400))]),
      'S: a lies in a way that it may not.',
    ],
    [
      'too heavy',
      [{ ...a, weightMg: 3e7 }],
      parcel(S, [at({ ...a, weightMg: 3e7 }, 0, 0, 0)]),
      'S: it is too heavy.',
    ],
    [
      'not alone',
      [{ ...a, alone: true, quantity: 2 }],
      parcel(S, [at({ ...a, alone: true }, 0, 0, 0), at({ ...a, alone: true }, 500, 0, 0)]),
      'S: a ships alone.',
    ],
    [
      'not apart',
      [a, { ...a, id: 'b', apart: 'line 2' }],
      parcel(S, [at(a, 0, 0, 0), at({ ...a, id: 'b', apart: 'line 2' }, 500, 0, 0)]),
      'S: b has a parcel of its own.',
    ],
    [
      'too many',
      [{ ...a, most: 1, quantity: 2 }],
      parcel(S, [at({ ...a, most: 1 }, 0, 0, 0), at({ ...a, most: 1 }, 500, 0, 0)]),
      'S: 2 a are in it, and 1 at most may be.',
    ],
    ['glass in a pouch', [b], parcel(BOXES[0]!, [at(b, 0, 0, 0)]), 'POUCH: what is fragile is in a mailer.'],
  ];
  test.each(cases)('%s', (_, pieces, parcels, says) => {
    expect(checkBoxPlan(pieces, parcels)).toContain(says);
  });
});
