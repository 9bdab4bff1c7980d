import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { seeded } from '../random/seeded.js';
import { checkPallet } from './checkPallet.js';
import { type PalletBox, type PalletKind, palletsOf } from './pallet.js';
import { barnesBound, fillLayer } from './palletLayer.js';

/** Decks by ISO 6780, and the inch one; 72 in and 1,500 lb are common limits. */
const kind = (name: string, length: number, width: number): PalletKind => ({
  name,
  length,
  width,
  deck: 1_440,
  weightMg: 20_000_000,
  mostHeight: 18_288,
  mostWeightMg: 680_388_555,
});
const KINDS = [
  kind('48 × 40 in', 12_192, 10_160),
  kind('1200 × 1000 mm', 12_000, 10_000),
  kind('1200 × 800 mm', 12_000, 8_000),
];

describe('a layer of equal boxes', () => {
  test('holds what textbooks say of common boxes, and the pinwheel where no rows do', () => {
    const most = (l: number, w: number, a: number, b: number) => {
      const { placed, bound } = fillLayer({ length: l, width: w }, { length: a, width: b });
      return [placed.length, bound];
    };
    expect(most(1_200, 1_000, 400, 300)).toEqual([10, 10]);
    expect(most(1_200, 800, 400, 300)).toEqual([8, 8]);
    expect(most(1_200, 800, 600, 400)).toEqual([4, 4]);
    // Rows alone reach 22; five parts around each other reach the bound.
    expect(most(22, 16, 5, 3)).toEqual([23, 23]);
    expect(most(10, 10, 11, 3)).toEqual([0, 0]);
  });

  test('reaches the bound in nine of ten of 300 seeded cases on each pallet', () => {
    for (const { name, length, width } of KINDS) {
      const random = seeded(length + width);
      let [cases, reached] = [0, 0];
      while (cases < 300) {
        // Cartons of whole millimetres, at most four times as long as wide, of which up to fifty have room.
        const b = 80 + Math.floor(random() * 400);
        const a = b + Math.floor(random() * 600);
        const box = { length: a * 10, width: b * 10 };
        const room = (length * width) / (box.length * box.width);
        if (a > 4 * b || room >= 51 || box.length > length) continue;
        cases++;
        const { placed, bound } = fillLayer({ length, width }, box);
        expect(placed.length).toBeLessThanOrEqual(bound);
        if (placed.length === bound) reached++;
      }
      expect(reached / cases, name).toBeGreaterThanOrEqual(0.9);
    }
  }, 60_000);

  test('its bound is never under what is possible: small cases by trying every place', () => {
    fc.assert(
      fc.property(
        fc.record({
          l: fc.integer({ min: 2, max: 7 }),
          w: fc.integer({ min: 2, max: 6 }),
          a: fc.integer({ min: 2, max: 4 }),
          b: fc.integer({ min: 1, max: 3 }),
        }),
        ({ l, w, a, b }) => {
          const exact = mostByTrying(l, w, a, b);
          const { placed, bound } = fillLayer({ length: l, width: w }, { length: a, width: b });
          expect(exact).toBeLessThanOrEqual(bound);
          expect(exact).toBeLessThanOrEqual(barnesBound(l, w, a, b));
          expect(placed.length).toBe(exact);
        },
      ),
      { numRuns: 60 },
    );
  });
});

/** The most boxes on a small floor, by trying every place for the first free cell. */
function mostByTrying(l: number, w: number, a: number, b: number): number {
  const taken = Array.from({ length: l }, () => new Array<boolean>(w).fill(false));
  let best = 0;
  const go = (cell: number, count: number, free: number): void => {
    best = Math.max(best, count);
    if (cell === l * w || count + Math.floor(free / (a * b)) <= best) return;
    const [x, y] = [Math.floor(cell / w), cell % w];
    if (!taken[x]![y]) {
      for (const [p, q] of a === b
        ? [[a, b]]
        : [
            [a, b],
            [b, a],
          ]) {
        const cells = [];
        for (let i = 0; i < p!; i++) for (let j = 0; j < q!; j++) cells.push([x + i, y + j] as const);
        if (!cells.every(([i, j]) => i < l && j < w && !taken[i]![j])) continue;
        for (const [i, j] of cells) taken[i]![j] = true;
        go(cell + 1, count + 1, free - a * b);
        for (const [i, j] of cells) taken[i]![j] = false;
      }
    }
    go(cell + 1, count, free - (taken[x]![y] ? 0 : 1));
  };
  go(0, 0, l * w);
  return best;
}

describe('pallets of equal boxes', () => {
  const box = fc.record({
    size: fc.record({
      length: fc.integer({ min: 1_000, max: 8_000 }),
      width: fc.integer({ min: 1_000, max: 6_000 }),
      height: fc.integer({ min: 800, max: 6_000 }),
    }),
    weightMg: fc.integer({ min: 500_000, max: 30_000_000 }),
    upright: fc.boolean(),
  });

  test('hold every box once; the checker, which knows nothing of how they are loaded, finds nothing wrong', () => {
    fc.assert(
      fc.property(fc.constantFrom(...KINDS), box, fc.integer({ min: 1, max: 260 }), (on, of, boxes) => {
        const pallets = palletsOf(on, of, boxes);
        expect(pallets.reduce((n, p) => n + p.boxes, 0)).toBe(boxes);
        for (const p of pallets) expect(checkPallet(p, on, of)).toEqual([]);
      }),
      { numRuns: 60 },
    );
  }, 60_000);

  const plain: PalletBox = {
    size: { length: 4_000, width: 3_000, height: 2_500 },
    weightMg: 8_000_000,
    upright: true,
  };

  test('are as high as layers allow and as heavy as may be, the pallet included', () => {
    const [first, second] = palletsOf(KINDS[1]!, plain, 70);
    // Six layers of 25 cm over 14.4 cm are 164.4 cm; a seventh would be too high.
    expect(first).toMatchObject({
      boxes: 60,
      height: 1_440 + 6 * 2_500,
      weightMg: 20_000_000 + 60 * 8_000_000,
    });
    expect(second!.boxes).toBe(10);
    const heavy = palletsOf(KINDS[1]!, { ...plain, weightMg: 30_000_000 }, 60);
    expect(heavy.map(p => p.boxes)).toEqual([22, 22, 16]);
    expect(
      palletsOf(KINDS[1]!, { ...plain, size: { length: 13_000, width: 9_000, height: 500 } }, 3),
    ).toEqual([]);
  });

  test('have layers that bind each other where the mirrored layer rests well; else a seam is said', () => {
    const [bound] = palletsOf(KINDS[1]!, plain, 60);
    expect(bound!.seam).toBe(false);
    const cube = { ...plain, size: { length: 4_000, width: 4_000, height: 4_000 } };
    const [grid] = palletsOf(KINDS[2]!, cube, 12);
    expect(grid!.seam).toBe(true);
  });

  test('the checker sees what is wrong', () => {
    const [right] = palletsOf(KINDS[1]!, plain, 60);
    const broken = (change: (p: NonNullable<typeof right>) => void) => {
      const copy = JSON.parse(JSON.stringify(right!)) as NonNullable<typeof right>;
      change(copy);
      return checkPallet(copy, KINDS[1]!, plain).join(' ');
    };
    expect(broken(p => (p.layers[0]!.placed[0]!.x = -10))).toContain('hangs over the edge');
    expect(broken(p => (p.layers[1]!.placed[0]!.x += 500))).toMatch(/overlap|hangs over/);
    expect(broken(p => (p.layers[0]!.placed = []))).toContain('rests on too little');
    expect(broken(p => (p.layers[0]!.height = 2_400))).toContain('is not as large');
    expect(broken(p => (p.weightMg -= 1))).toContain('It weighs');
    expect(broken(p => (p.boxes += 1))).toContain('It has 60 boxes');
  });
});
