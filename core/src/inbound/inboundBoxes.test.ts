import { describe, expect, test } from 'vitest';
import { checkBoxPlan } from '../packing/checkBoxPlan.js';
import { seeded } from '../random/seeded.js';
import { type LineToBox, planInboundBoxes, refusedBox } from './inboundBoxes.js';
import { box, IN, LB, LIMITS, line } from './samples.js';

const BOXES = [box('S', 12, 10, 8, 90), box('L', 20, 16, 13, 180), box('X', 30, 16, 13, 240)];
const unitsOf = (plan: ReturnType<typeof planInboundBoxes>, id: string) =>
  plan.boxes.flatMap(b => b.contents).reduce((n, c) => n + (c.id === id ? c.units : 0), 0);

describe('boxes to a center', () => {
  test('ordinary boxes are within the limits of common networks', () => {
    expect(refusedBox({ length: 14 * IN, width: 11 * IN, height: 9 * IN }, 10 * LB, LIMITS)).toBeNull();
    expect(refusedBox({ length: 5_000, width: 4_000, height: 3_000 }, 4_000_000, LIMITS)).toBeNull();
    expect(refusedBox({ length: 26 * IN, width: 10 * IN, height: 9 * IN }, LB, LIMITS)).toContain('longer');
    expect(refusedBox({ length: 10 * IN, width: 10 * IN, height: 9 * IN }, 51 * LB, LIMITS)).toContain(
      'heavier',
    );
  });

  test('take every unit once, within weight and sides; heavy ones are marked, and a box that is refused is named', () => {
    const lines = [
      line('jar', 130),
      line('tool', 40, { weightMg: 2 * LB, size: { length: 10 * IN, width: 3 * IN, height: IN } }),
    ];
    const plan = planInboundBoxes(BOXES, lines, LIMITS);
    expect([unitsOf(plan, 'jar'), unitsOf(plan, 'tool')]).toEqual([130, 40]);
    expect(plan.refused).toEqual([{ code: 'X', why: 'It is longer than the network takes.' }]);
    for (const b of plan.boxes) {
      expect(b.weightMg).toBeLessThanOrEqual(LIMITS.mostMg);
      expect(b.heavy).toBe(b.weightMg > LIMITS.heavyMg);
    }
    // 210 lb in boxes that hold 49.
    expect(plan.bound).toBe(5);
    expect(plan.boxes.length).toBeGreaterThanOrEqual(plan.bound);
  });

  test('keep cases whole; what does not fill one goes singly; one product a box where that is wanted', () => {
    const inCases = {
      units: 12,
      size: { length: 16 * IN, width: 12 * IN, height: 6 * IN },
      weightMg: 12.5 * LB,
    };
    const plan = planInboundBoxes(
      BOXES,
      [line('jar', 31, { inCases, own: true }), line('hat', 10, { own: true })],
      LIMITS,
    );
    const jars = plan.boxes.flatMap(b => b.contents.filter(c => c.id === 'jar'));
    expect(jars.reduce((n, c) => n + c.cases, 0)).toBe(2);
    expect(unitsOf(plan, 'jar')).toBe(31);
    for (const b of plan.boxes) expect(b.contents).toHaveLength(1);
  });

  test('say what goes into none, and count what cannot share a box', () => {
    const huge = line('drum', 2, { size: { length: 40 * IN, width: 20 * IN, height: 20 * IN } });
    const anvil = line('anvil', 3, { weightMg: 30 * LB });
    const plan = planInboundBoxes(BOXES, [huge, anvil], LIMITS);
    expect(plan.left).toEqual([{ id: 'drum', why: 'It is larger than every box.' }]);
    expect([plan.bound, plan.boxes.length]).toEqual([3, 3]);
    expect(planInboundBoxes([], [], LIMITS)).toMatchObject({ boxes: [], bound: 0 });
  });

  test('come to 1.08 of the bound in the mean of twenty seeded cases, and to 1.15 in the worst; the checker finds nothing wrong', () => {
    const one = box('L', 20, 16, 13, 180);
    const room = one.inner.length * one.inner.width * one.inner.height;
    let [sum, worst] = [0, 0];
    for (let seed = 1; seed <= 20; seed++) {
      const random = seeded(seed);
      const side = (least: number, most: number) => least + Math.floor(random() * (most - least));
      const lines = Array.from({ length: 25 }, (_, i) => {
        let size: LineToBox['size'];
        // Nothing is more than a twelfth of the box, and volume decides.
        do size = { length: side(500, 2_300), width: side(400, 1_800), height: side(300, 1_400) };
        while (size.length * size.width * size.height > room / 12);
        return line(`p${i}`, side(10, 50), { size, weightMg: 100_000 });
      });
      const plan = planInboundBoxes([{ ...one, limitMg: 1e9 }], lines, { ...LIMITS, mostMg: 2e9 });
      const pieces = lines.map(l => ({
        id: l.id,
        size: l.size,
        weightMg: l.weightMg,
        quantity: l.units,
        fragile: false,
        upright: false,
      }));
      expect(checkBoxPlan(pieces, plan.boxes)).toEqual([]);
      const ratio = plan.boxes.length / plan.bound;
      sum += ratio;
      worst = Math.max(worst, ratio);
    }
    expect(sum / 20).toBeLessThanOrEqual(1.08);
    expect(worst).toBeLessThanOrEqual(1.15);
  }, 120_000);
});
