import { fail, ok, type Result } from '../result.js';

/** Milligrams in one ounce, pound, kilogram. The pound is exactly 453 592.37 mg; stored weights round to whole milligrams. */
export const MG = { g: 1_000, kg: 1_000_000, oz: 28_349.523_125, lb: 453_592.37 } as const;

/** Tenths of a millimetre in one unit of length. An inch is exactly 254. */
export const TENTHS = { mm: 10, cm: 100, m: 10_000, in: 254, ft: 3_048 } as const;

/** Three outer or inner sides in tenths of a millimetre. */
export interface Size {
  length: number;
  width: number;
  height: number;
}

/** Heaviest weight that is read at all: one tonne. */
const MOST_MG = 1_000 * MG.kg;

/** Reads "2 lb 3 oz", "1.2 kg", "350 g" into whole milligrams; a unit must be given; zero, negative and over a tonne are refused. Example: `parseWeight('1 lb')` is 453592. */
export function parseWeight(text: string): Result<number, string> {
  const parts = [
    ...text
      .trim()
      .toLowerCase()
      .matchAll(/(\d+(?:[.,]\d+)?)\s*(kg|g|lbs?|oz)\b\s*/g),
  ];
  if (
    parts.length === 0 ||
    parts
      .map(p => p[0])
      .join('')
      .trim() !== text.trim().toLowerCase()
  )
    return fail('A weight is a number and a unit, such as 1.2 kg or 2 lb 3 oz.');
  const mg = Math.round(
    parts.reduce(
      (sum, p) => sum + Number(p[1]!.replace(',', '.')) * MG[p[2]!.replace('lbs', 'lb') as keyof typeof MG],
      0,
    ),
  );
  if (mg <= 0) return fail('A weight is more than nothing.');
  if (mg > MOST_MG) return fail('That is heavier than a tonne. Check the number and the unit.');
  return ok(mg);
}

/** Longest side that is read at all: ten metres, in tenths of a millimetre. */
const LONGEST = 100_000;
const SIDE = String.raw`(\d+(?:[.,]\d+)?|[.,]\d+)`;
const SIZE = new RegExp(String.raw`^\s*${SIDE}\s*[x×]\s*${SIDE}\s*[x×]\s*${SIDE}\s*(mm|cm|in)\s*$`, 'i');

/** Reads "11x9x14 in" or "30,5 x 20 x 10 cm" into tenths of a millimetre, sides in the typed order; none is over ten metres. */
export function parseSize(text: string): Result<Size, string> {
  const m = SIZE.exec(text);
  if (!m) return fail('A size is three numbers and a unit, such as 11x9x14 in.');
  const per = TENTHS[m[4]!.toLowerCase() as keyof typeof TENTHS];
  const [length, width, height] = [m[1], m[2], m[3]].map(n =>
    Math.round(Number(n!.replace(',', '.')) * per),
  ) as [number, number, number];
  if (!(length > 0 && width > 0 && height > 0)) return fail('Every side is more than nothing.');
  if (Math.max(length, width, height) > LONGEST)
    return fail('A side is longer than ten metres. Check the numbers and the unit.');
  return ok({ length, width, height });
}

/** A weight as people read it in pounds and ounces or in kilograms. Example: `formatWeight(992233, 'imperial')` is `2 lb 3 oz`. */
export function formatWeight(mg: number, system: 'imperial' | 'metric'): string {
  if (system === 'metric') return mg < MG.kg ? `${Math.round(mg / MG.g)} g` : `${(mg / MG.kg).toFixed(2)} kg`;
  const ounces = Math.round((mg / MG.oz) * 10) / 10;
  const lb = Math.floor(ounces / 16);
  const oz = Math.round((ounces - lb * 16) * 10) / 10;
  return lb === 0 ? `${oz} oz` : oz === 0 ? `${lb} lb` : `${lb} lb ${oz} oz`;
}

/** A size as people read it. Example: 8 × 8 × 8 in. */
export function formatSize({ length, width, height }: Size, system: 'imperial' | 'metric'): string {
  const side = (n: number) => formatLength(n, system).split(' ')[0];
  return `${side(length)} × ${side(width)} × ${formatLength(height, system)}`;
}

/** A length in tenths of a millimetre as people read it. Example: `formatLength(10160, 'imperial')` is `40 in`. */
export function formatLength(tenths: number, system: 'imperial' | 'metric'): string {
  const [per, unit] = system === 'imperial' ? [TENTHS.in, 'in'] : [TENTHS.cm, 'cm'];
  return `${Math.round((tenths / per) * 10) / 10} ${unit}`;
}

/**
 * Whole steps that hold a value, rounding up, after snapping to a step within a thousandth of it, so that 1 lb typed
 * is 1 lb rated. Example: `stepsUp(453592, MG.lb)` is 1, `stepsUp(460000, MG.lb)` is 2.
 */
export function stepsUp(value: number, step: number): number {
  const steps = value / step;
  const near = Math.round(steps);
  return Math.abs(steps - near) <= 0.001 ? near : Math.ceil(steps);
}

/** Volume in cubic inches, a double. */
export function cubicInches(size: Size): number {
  return (size.length * size.width * size.height) / TENTHS.in ** 3;
}

/** Volume in cubic feet, a double. Example: 8 x 8 x 8 in is 0.2963. */
export const cubicFeet = (size: Size): number => cubicInches(size) / 1728;

/** No house is longer, in tenths of a millimetre; sums of such distances stay exact. */
const FARTHEST = 20_000_000;

/**
 * A distance on the floor in tenths of a millimetre, which may lie before the beginning: "12.5", "12.5 m", "41 ft". A bare number counts
 * in metres; up to 2,000 m.
 */
export function parseDistance(text: string): Result<number, string> {
  const m = /^(-?\d+(?:[.,]\d+)?)\s*(m|cm|ft|in|'|")?$/i.exec(text.trim());
  const unit = { "'": 'ft', '"': 'in' }[m?.[2] ?? ''] ?? m?.[2]?.toLowerCase() ?? 'm';
  const tenths = m ? Math.round(Number(m[1]!.replace(',', '.')) * TENTHS[unit as 'm']) : Number.NaN;
  return Math.abs(tenths) <= FARTHEST
    ? { ok: true, value: tenths }
    : { ok: false, problem: 'is not a distance up to 2,000 m, such as 12.5 m or 41 ft' };
}
