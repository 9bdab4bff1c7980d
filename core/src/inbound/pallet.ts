import type { Size } from '../units/units.js';
import { fillLayer, type LayerBox } from './palletLayer.js';

/** A kind of pallet: its deck and how high it is itself, tenths of a millimetre; the most that a loaded one may be high and weigh, itself included. Weights in milligrams. */
export interface PalletKind {
  name: string;
  length: number;
  width: number;
  deck: number;
  weightMg: number;
  mostHeight: number;
  mostWeightMg: number;
}

/** Boxes of one kind that are to stand on pallets. */
export interface PalletBox {
  size: Size;
  weightMg: number;
  /** Its height stays upright. */
  upright: boolean;
}

/** One layer of a pallet: how high it begins above the deck, how high it is, and where its boxes stand. */
export interface PalletLayer {
  at: number;
  height: number;
  placed: LayerBox[];
}

/** One pallet as it is loaded. `height` and `weightMg` include the pallet; `seam` says that a cut goes through all layers. */
export interface LoadedPallet {
  layers: PalletLayer[];
  boxes: number;
  height: number;
  weightMg: number;
  seam: boolean;
}

/** Least part of a box's floor that must rest on what is under it. */
export const PALLET_SUPPORT = 0.75;

/**
 * Pallets of equal boxes: the way to lie that takes most boxes on a pallet (of equal ones the lowest), layer on layer, every second layer
 * mirrored so that no cut goes through all of them where that leaves each box on enough of those below. The last pallet has what is
 * left. Nothing where not even one box may stand on a pallet.
 */
export function palletsOf(kind: PalletKind, box: PalletBox, boxes: number): LoadedPallet[] {
  const best = waysToStand(box)
    .map(lying => stackOf(kind, lying, box.weightMg))
    .filter(s => s.most > 0)
    .sort((a, b) => b.most - a.most || a.height - b.height)[0];
  if (!best) return [];
  const pallets: LoadedPallet[] = [];
  for (let left = boxes; left > 0; left -= best.most)
    pallets.push(loaded(kind, best, Math.min(left, best.most), box.weightMg));
  return pallets;
}

/** How a pallet is stacked with a box on one of its sides. */
interface Stack {
  layers: LayerBox[][];
  /** Of one layer. */
  height: number;
  most: number;
}

/** The sides that may be up, each with the floor that it leaves, the longer first. */
function waysToStand({ size: { length, width, height }, upright }: PalletBox): Size[] {
  const ways: Size[] = [{ length, width, height }];
  if (!upright)
    ways.push({ length, width: height, height: width }, { length: width, width: height, height: length });
  return ways
    .map(w => ({ ...w, length: Math.max(w.length, w.width), width: Math.min(w.length, w.width) }))
    .filter((w, i, all) => all.findIndex(o => o.height === w.height && o.length === w.length) === i);
}

function stackOf(kind: PalletKind, box: Size, weightMg: number): Stack {
  const { placed } = fillLayer(kind, box);
  const high = Math.floor((kind.mostHeight - kind.deck) / box.height);
  const heavy = Math.floor((kind.mostWeightMg - kind.weightMg) / weightMg);
  const most = Math.max(0, Math.min(high * placed.length, heavy));
  const other = mirrored(placed, kind);
  const layers = supports(placed, other) && supports(other, placed) ? [placed, other] : [placed];
  return { layers, height: box.height, most };
}

/** The same layer seen in a mirror, turned so that its cuts lie elsewhere. */
const mirrored = (placed: readonly LayerBox[], { length, width }: PalletKind): LayerBox[] =>
  placed.map(b => ({ ...b, x: length - b.x - b.length, y: width - b.y - b.width }));

function loaded(kind: PalletKind, stack: Stack, boxes: number, weightMg: number): LoadedPallet {
  const layers: PalletLayer[] = [];
  for (let left = boxes; left > 0; ) {
    const pattern = stack.layers[layers.length % stack.layers.length]!;
    // What does not fill a layer stands in its middle, on what is below.
    const placed = left >= pattern.length ? pattern : middle(pattern, left, kind);
    layers.push({ at: layers.length * stack.height, height: stack.height, placed });
    left -= placed.length;
  }
  return {
    layers,
    boxes,
    height: kind.deck + layers.length * stack.height,
    weightMg: kind.weightMg + boxes * weightMg,
    seam: layers.length > 1 && hasSeam(layers.flatMap(l => l.placed)),
  };
}

/** So many boxes of a layer, those nearest to its middle. */
function middle(layer: readonly LayerBox[], many: number, { length, width }: PalletKind): LayerBox[] {
  const far = (b: LayerBox) => Math.hypot(b.x + b.length / 2 - length / 2, b.y + b.width / 2 - width / 2);
  return [...layer].sort((a, b) => far(a) - far(b) || a.x - b.x || a.y - b.y).slice(0, many);
}

/** How much of the floors of two boxes covers each other. */
const common = (a: LayerBox, b: LayerBox): number =>
  Math.max(0, Math.min(a.x + a.length, b.x + b.length) - Math.max(a.x, b.x)) *
  Math.max(0, Math.min(a.y + a.width, b.y + b.width) - Math.max(a.y, b.y));

/** Whether every box of the upper layer rests on enough of the lower. */
export const supports = (lower: readonly LayerBox[], upper: readonly LayerBox[]): boolean =>
  upper.every(u => lower.reduce((sum, l) => sum + common(u, l), 0) >= PALLET_SUPPORT * u.length * u.width);

/** Whether some straight cut goes through all boxes of a load, from its floor to its top, without meeting one. Its edges are no cut. */
export const hasSeam = (placed: readonly LayerBox[]): boolean =>
  hasCut(placed.map(b => [b.x, b.x + b.length])) || hasCut(placed.map(b => [b.y, b.y + b.width]));

function hasCut(spans: readonly (readonly [from: number, to: number])[]): boolean {
  const [first, last] = [Math.min(...spans.map(s => s[0])), Math.max(...spans.map(s => s[1]))];
  return [...new Set(spans.flat())].some(
    cut => cut > first && cut < last && spans.every(([from, to]) => to <= cut || from >= cut),
  );
}
