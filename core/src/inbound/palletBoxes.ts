import type { Size } from '../units/units.js';
import type { PalletKind } from './pallet.js';
import { palletPlan } from './planWays.js';

/** A packed box that is to stand on a pallet: what it is known by, its kind with the room inside (tenths of a millimetre), and what it weighs. */
export interface BoxToLoad {
  id: string;
  code: string;
  inner: Size;
  weightMg: number;
}

/** A pallet with the boxes that stand on it; height and weight include the pallet itself. */
export interface PalletOfBoxes {
  ids: string[];
  height: number;
  weightMg: number;
}

/**
 * Which packed boxes stand on which pallet: as they are planned by kinds, each kind's boxes in their order; each pallet weighs what its own
 * boxes weigh. None where a box goes on no pallet.
 */
export function boxesOnPallets(kind: PalletKind, boxes: readonly BoxToLoad[]): PalletOfBoxes[] {
  const { pallets, left } = palletPlan(
    kind,
    boxes.map(({ code, inner, weightMg }) => ({ box: { code, inner }, weightMg })),
  );
  if (left.length > 0) return [];
  const waiting = new Map<string, BoxToLoad[]>();
  for (const b of boxes) waiting.set(b.code, [...(waiting.get(b.code) ?? []), b]);
  return pallets.map(({ placed, height }) => {
    const on = placed.map(p => waiting.get(p.piece.id)!.shift()!);
    return {
      ids: on.map(b => b.id),
      height,
      weightMg: kind.weightMg + on.reduce((n, b) => n + b.weightMg, 0),
    };
  });
}
