import { type LoadedPallet, PALLET_SUPPORT, type PalletBox, type PalletKind } from './pallet.js';

/**
 * What is wrong with a loaded pallet, as sentences; none when it may travel. Looks at every box by itself and at every pair, and shares
 * nothing with the code that loads it but the words.
 */
export function checkPallet(pallet: LoadedPallet, kind: PalletKind, box: PalletBox): string[] {
  const wrong: string[] = [];
  const boxes = pallet.layers.flatMap(l =>
    l.placed.map(p => ({ x: p.x, y: p.y, z: l.at, l: p.length, w: p.width, h: l.height })),
  );
  const sides = (l: number, w: number, h: number) => [l, w, h].sort((a, b) => a - b).join();
  const own = sides(box.size.length, box.size.width, box.size.height);
  boxes.forEach((b, i) => {
    if (b.x < 0 || b.y < 0 || b.x + b.l > kind.length || b.y + b.w > kind.width)
      wrong.push(`Box ${i} hangs over the edge.`);
    if (sides(b.l, b.w, b.h) !== own) wrong.push(`Box ${i} is not as large as its kind.`);
    if (box.upright && b.h !== box.size.height) wrong.push(`Box ${i} does not stand upright.`);
    let rests = b.z === 0 ? b.l * b.w : 0;
    boxes.forEach((o, j) => {
      if (i === j) return;
      const across = Math.min(b.x + b.l, o.x + o.l) - Math.max(b.x, o.x);
      const along = Math.min(b.y + b.w, o.y + o.w) - Math.max(b.y, o.y);
      if (across <= 0 || along <= 0) return;
      if (i < j && Math.min(b.z + b.h, o.z + o.h) > Math.max(b.z, o.z))
        wrong.push(`Boxes ${i} and ${j} overlap.`);
      if (o.z + o.h === b.z) rests += across * along;
    });
    if (rests < PALLET_SUPPORT * b.l * b.w) wrong.push(`Box ${i} rests on too little.`);
  });
  const high = kind.deck + Math.max(0, ...boxes.map(b => b.z + b.h));
  const heavy = kind.weightMg + boxes.length * box.weightMg;
  if (high !== pallet.height || high > kind.mostHeight) wrong.push(`It is ${high} high.`);
  if (heavy !== pallet.weightMg || heavy > kind.mostWeightMg) wrong.push(`It weighs ${heavy}.`);
  if (boxes.length !== pallet.boxes) wrong.push(`It has ${boxes.length} boxes.`);
  return wrong;
}
