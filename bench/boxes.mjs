// What the benchmarks and the outside checks of box plans share: kinds of boxes, orders, an independent library, and the plain ways they are measured against.
import { checkBoxPlan, shuffled, volumeOf } from '@auk/core';
import { pack3D } from 'binpackingjs/3d';

const INCH = 254;
const POUND = 453_592;
const SIDES = ['length', 'width', 'height'];

/** Twelve kinds of boxes, sides in inches. */
export const BOXES = [
  [6, 4, 2],
  [9, 6, 2],
  [9, 6, 4],
  [12, 9, 4],
  [12, 9, 6],
  [12, 12, 8],
  [14, 10, 5],
  [16, 12, 6],
  [18, 13, 5],
  [18, 14, 10],
  [20, 12, 12],
  [24, 18, 18],
].map(([l, w, h], i) => ({
  code: `BX-${i + 1}`,
  name: `B${i + 1}`,
  inner: { length: l * INCH, width: w * INCH, height: h * INCH },
  tareMg: Math.round(0.1 * POUND * Math.sqrt(l * w * h) ** 0.5),
  limitMg: 65 * POUND,
  priceMinor: Math.round(20 + (l * w * h) ** 0.7),
}));

/** A parcel costs its box, six dollars for its way, and thirty cents a pound. */
export const cost = (box, weightMg) => box.priceMinor + 600 + Math.ceil(weightMg / POUND) * 30;

export const weightOf = pieces => pieces.reduce((w, p) => w + p.weightMg * p.quantity, 0);

/** An order of 1 to 12 pieces, some of them alike. */
export function anOrder(random) {
  const pieces = [];
  const side = () => Math.round(INCH * (1 + random() * random() * 9));
  for (let left = 1 + Math.floor(random() * 12); left > 0; ) {
    const quantity = Math.min(left, random() < 0.6 ? 1 : 1 + Math.floor(random() * 4));
    pieces.push({
      id: `P${pieces.length}`,
      size: { length: side(), width: side(), height: side() },
      weightMg: Math.round(1e5 + random() * 2e6),
      quantity,
      fragile: random() < 0.1,
      upright: random() < 0.1,
    });
    left -= quantity;
  }
  return pieces;
}

/** The single fit: the smallest box whose sides take each piece alone and whose volume holds all at 85 %. It lays nothing out. */
export function singleFit(boxes, pieces) {
  const sorted = s => [s.length, s.width, s.height].sort((a, b) => a - b);
  const goesIn = (p, box) => sorted(p.size).every((side, i) => side <= sorted(box.inner)[i]);
  const volume = pieces.reduce((v, p) => v + volumeOf(p.size) * p.quantity, 0);
  return boxes
    .filter(
      b =>
        pieces.every(p => goesIn(p, b)) &&
        volume <= volumeOf(b.inner) * 0.85 &&
        weightOf(pieces) <= b.limitMg,
    )
    .sort((a, b) => volumeOf(a.inner) - volumeOf(b.inner))[0];
}

const itemsOf = pieces =>
  pieces.flatMap(p =>
    Array.from({ length: p.quantity }, () => ({
      name: p.id,
      width: p.size.length,
      height: p.size.height,
      depth: p.size.width,
      weight: p.weightMg,
    })),
  );

const binOf = ({ code, inner, limitMg }) => ({
  name: code,
  width: inner.length,
  height: inner.height,
  depth: inner.width,
  maxWeight: limitMg,
});

/** How many boxes of one kind binpackingjs fills; Infinity when something goes into none. */
export function boxesByLibrary(box, pieces) {
  const items = itemsOf(pieces);
  const packed = pack3D({ bins: items.map(() => binOf(box)), items });
  return packed.unfitItems.length > 0 ? Infinity : packed.packedBins.filter(b => b.items.length > 0).length;
}

/** What binpackingjs lays out in one box: null when not all of it goes in. */
export function byLibrary(box, pieces) {
  const packed = pack3D({ bins: [binOf(box)], items: itemsOf(pieces) });
  if (packed.unfitItems.length > 0) return null;
  return packed.packedBins[0].items
    .map(i => ({
      piece: pieces.find(p => p.id === i.sourceItem.name),
      x: i.position[0],
      y: i.position[2],
      z: i.position[1],
      size: { length: i.dimension[0], width: i.dimension[2], height: i.dimension[1] },
    }))
    .sort((a, b) => a.z - b.z);
}

/** The least that a sound arrangement of the library costs, one box for all; Infinity when it has none. */
export function libraryCost(boxes, pieces) {
  const by = [...boxes].sort((a, b) => cost(a, a.tareMg) - cost(b, b.tareMg));
  for (const box of by) {
    const placed = byLibrary(box, pieces);
    if (placed && checkBoxPlan(pieces, [{ box, placed }]).length === 0)
      return cost(box, box.tareMg + weightOf(pieces));
  }
  return Infinity;
}

/** A box cut by planes, each through a whole piece. */
export function cut(space, count, random) {
  const parts = [space];
  while (parts.length < count) {
    const i = Math.floor(random() * parts.length);
    const side = SIDES[Math.floor(random() * 3)];
    const whole = parts[i];
    if (whole[side] < 200) continue;
    const at = Math.round(whole[side] * (0.2 + 0.6 * random()));
    parts.splice(i, 1, { ...whole, [side]: at }, { ...whole, [side]: whole[side] - at });
  }
  return shuffled(
    parts.map((size, i) => ({ id: `C${i}`, size, weightMg: 1_000, quantity: 1 })),
    random,
  );
}
