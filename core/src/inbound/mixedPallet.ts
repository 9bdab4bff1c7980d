import { type Piece, type Placed, volumeOf, waysToLie } from '../packing/boxes.js';
import { fillAhead } from '../packing/fillAhead.js';
import { placedPieces, shapesOf } from '../packing/shapes.js';
import type { Size } from '../units/units.js';
import { hasSeam, type PalletBox, type PalletKind } from './pallet.js';

/** Boxes of one kind among others on a pallet. */
export interface MixedBox extends PalletBox {
  id: string;
  quantity: number;
}

/** A pallet of different boxes: where each stands above the deck. `height` and `weightMg` include the pallet; `seam` says that a cut goes through all of it. */
export interface MixedPallet {
  placed: Placed[];
  boxes: number;
  height: number;
  weightMg: number;
  seam: boolean;
}

/** Pallets of different boxes. `bound`: none has fewer, by volume, weight, and boxes of which no two share a pallet; `left` go onto none, with why. */
export interface MixedPallets {
  pallets: MixedPallet[];
  bound: number;
  left: { id: string; why: string }[];
}

/** Blocks that are looked at for each room. */
const LOOKS = 6;

/**
 * Pallets of different boxes, one after another: blocks of like boxes, each on the deck or wholly on another, so that all of every box is
 * carried and nothing hangs over.
 */
export function mixedPallets(kind: PalletKind, boxes: readonly MixedBox[]): MixedPallets {
  const room: Size = { length: kind.length, width: kind.width, height: kind.mostHeight - kind.deck };
  const load = kind.mostWeightMg - kind.weightMg;
  const left = boxes.flatMap(b => {
    const why = whyNone(b, room, load);
    return why && b.quantity > 0 ? [{ id: b.id, why }] : [];
  });
  const on = boxes.filter(b => !left.some(l => l.id === b.id));
  const pallets: MixedPallet[] = [];
  let rest = on.map(
    ({ id, quantity, size, weightMg, upright }): Piece => ({ id, quantity, size, weightMg, upright }),
  );
  while (rest.some(p => p.quantity > 0)) {
    const placed = placedPieces(fillAhead(room, shapesOf(rest, 0), LOOKS, load));
    pallets.push(loaded(kind, placed));
    rest = rest.map(p => ({ ...p, quantity: p.quantity - placed.filter(q => q.piece.id === p.id).length }));
  }
  return { pallets, bound: boundOf(room, load, on), left };
}

/** Why not even one of a box goes onto a pallet; null when one does. */
function whyNone(box: MixedBox, room: Size, load: number): string | null {
  if (box.weightMg > load) return 'It is heavier than a pallet may be.';
  const ways = waysToLie({ ...box, id: box.id });
  const fits = ways.some(w => w.length <= room.length && w.width <= room.width && w.height <= room.height);
  return fits ? null : 'It is larger than a pallet may be.';
}

function loaded(kind: PalletKind, placed: Placed[]): MixedPallet {
  return {
    placed,
    boxes: placed.length,
    height: kind.deck + Math.max(...placed.map(p => p.z + p.size.height)),
    weightMg: kind.weightMg + placed.reduce((n, p) => n + p.piece.weightMg, 0),
    seam: hasSeam(placed.map(({ x, y, size }) => ({ x, y, length: size.length, width: size.width }))),
  };
}

function boundOf(room: Size, load: number, boxes: readonly MixedBox[]): number {
  const sum = (of: (b: MixedBox) => number) => boxes.reduce((n, b) => n + of(b) * b.quantity, 0);
  const volume = volumeOf(room);
  const large = sum(b => (2 * volumeOf(b.size) > volume || 2 * b.weightMg > load ? 1 : 0));
  return Math.max(
    Math.ceil(sum(b => volumeOf(b.size)) / volume),
    Math.ceil(sum(b => b.weightMg) / load),
    large,
  );
}
