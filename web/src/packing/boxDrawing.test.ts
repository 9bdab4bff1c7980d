import { NO_CHOICES, openPack, type PackLine, type PackState, seeded } from '@auk/core';
import { expect, test } from 'vitest';
import { backToFront, facesOf, project } from '../parts/box/isometric.js';
import { lay, layoutOf, lies, wishOf } from './boxDrawing.js';

const block = (x: number, y: number, z: number, length = 1, width = 1, height = 1) => ({
  x,
  y,
  z,
  size: { length, width, height },
});

test('what is under or behind is drawn first, however it is given', () => {
  const [floor, back, front, top] = [block(0, 0, 0, 2, 2, 1), block(0, 0, 1), block(1, 1, 1), block(0, 0, 2)];
  const drawn = backToFront([top, front, back, floor]);
  expect(drawn[0]).toBe(floor);
  expect(drawn.indexOf(back)).toBeLessThan(drawn.indexOf(top));
  expect(drawn.indexOf(back)).toBeLessThan(drawn.indexOf(front));
  const random = seeded(4);
  for (let n = 0; n < 50; n++) {
    const cells = [...Array(27).keys()].filter(() => random() < 0.5);
    const blocks = cells.map(c => block(c % 3, Math.floor(c / 3) % 3, Math.floor(c / 9)));
    const drawn = backToFront(blocks);
    expect(drawn).toHaveLength(blocks.length);
    drawn.forEach((a, i) => {
      // No later one is wholly behind an earlier one.
      for (const b of drawn.slice(i + 1)) expect(b.x + 1 <= a.x && b.y <= a.y && b.z <= a.z).toBe(false);
    });
  }
});

test('a block shows its top, front and right face', () => {
  const faces = facesOf({ x: 0, y: 0, z: 0 }, { length: 2, width: 1, height: 1 });
  expect(faces).toHaveLength(3);
  expect(faces[0]![0]).toEqual(project({ x: 0, y: 0, z: 1 }));
  expect(project({ x: 1, y: 1, z: 1 }).y).toBeCloseTo(0);
});

const line = (id: string, wanted: number, size: PackLine['piece']): PackLine => ({
  id,
  product: { id, sku: id, name: id, codes: [], picture: null, hint: null },
  wanted,
  packed: 0,
  kitParts: [],
  bundle: null,
  piece: size,
  wants: {},
  optional: false,
  leftOut: 0,
});
const sized = (length: number, width: number, height: number) => ({
  size: { length, width, height },
  weightMg: 1_000,
});
const padded = { ...NO_CHOICES, padding: 50 };
const box = {
  code: 'BX-1',
  name: 'B1',
  tareMg: 1,
  limitMg: 1e9,
  inner: { length: 200, width: 100, height: 100 },
  kind: 'box' as const,
};

const drawn = (state: PackState) => layoutOf(lay(wishOf(state)), state);

test('the piece that is next follows what is in; layers are heights', () => {
  const state = openPack({
    orderNo: 'OR-1',
    lines: [line('a', 4, sized(100, 100, 50))],
    boxes: [box],
    proposed: ['BX-1'],
  });
  const layout = drawn(state);
  expect(layout).toMatchObject({ next: 0, layers: [0, 50], rest: 0 });
  const two = {
    ...state,
    parcels: [{ ...state.parcels[0]!, holds: { a: 2 } }],
    lines: [{ ...state.lines[0]!, packed: 2 }],
  };
  expect(drawn(two)).toMatchObject({ next: 2 });
  // Pieces that go in change nothing of how all of them lie.
  expect(wishOf(two)).toEqual(wishOf(state));
  expect('placed' in layout && lies(layout.placed[0]!)).toBe('upright');
});

test('what does not fit is counted, and what cannot be drawn says why', () => {
  const many = openPack({
    orderNo: 'OR-1',
    lines: [line('a', 6, sized(100, 100, 50))],
    boxes: [box],
    proposed: ['BX-1'],
  });
  expect(drawn(many)).toMatchObject({ rest: 2 });
  const none = (piece: PackLine['piece'], proposed = ['BX-1']) =>
    drawn(openPack({ orderNo: 'OR-1', lines: [line('a', 1, piece)], boxes: [box], proposed }));
  expect(none({ size: null, weightMg: 0 })).toEqual({
    why: 'a has no size: no box can be proposed. Measure it, and type it such as 11x9x14 in.',
  });
  const glass = { ...sized(100, 100, 50), fragile: true };
  const laid = (choices = NO_CHOICES) =>
    drawn(
      openPack({ orderNo: 'OR-1', lines: [line('a', 1, glass)], boxes: [box], proposed: ['BX-1'], choices }),
    );
  expect(laid()).toMatchObject({ rest: 0 });
  expect(laid(padded)).toEqual({ why: 'Box B1 takes none of it by its size.' });
  expect(none(sized(900, 1, 1))).toEqual({ why: 'Box B1 takes none of it by its size.' });
  expect(none(sized(1, 1, 1), [])).toMatchObject({ box: { code: 'BX-1' }, rest: 0 });
  expect(none(sized(900, 1, 1), [])).toEqual({ why: 'No box takes all of it. Scan the one you use.' });
});
