import type { PackState } from './packState.js';

/** Less than this, in milligrams, is within what scales and boxes differ by. */
const LEAST_MG = 10_000;
/** So far off, in parts of a hundred, a weight must be to be worth a look. */
const LEAST_PERCENT = 5;

/**
 * What the scale says of one piece, when a parcel holds one product alone: its weight less the box, shared by the pieces, in milligrams.
 * Null when it holds several, or when that is about what is kept of the product.
 */
export function learnedWeight(state: PackState, parcelNo: number): { productId: string; mg: number } | null {
  const { holds, weightMg, boxCode } = state.parcels.find(p => p.no === parcelNo)!;
  const box = state.boxes.find(b => b.code === boxCode);
  const lines = state.lines.filter(l => (holds[l.id] ?? 0) > 0);
  const [first] = lines;
  if (!first || !box || weightMg === null || lines.some(l => l.product.id !== first.product.id)) return null;
  const units = lines.reduce((n, l) => n + holds[l.id]!, 0);
  const mg = Math.round((weightMg - box.tareMg) / units);
  const kept = first.piece?.weightMg ?? 0;
  const off = Math.abs(mg - kept);
  return mg > 0 && off > LEAST_MG && off * 100 > kept * LEAST_PERCENT
    ? { productId: first.product.id, mg }
    : null;
}
