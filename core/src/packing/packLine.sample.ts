import type { ScanProduct } from '../catalog/scanProduct.js';
import type { PackLine } from './packState.js';

/** A line at the bench for tests: pieces of 5 x 5 x 5 cm and half a kilogram, of which nothing is asked. */
export const samplePackLine = (
  id: string,
  product: ScanProduct,
  wanted: number,
  more: Partial<PackLine> = {},
): PackLine => ({
  id,
  product,
  wanted,
  packed: 0,
  kitParts: [],
  bundle: null,
  piece: { size: { length: 500, width: 500, height: 500 }, weightMg: 500_000 },
  wants: {},
  optional: false,
  leftOut: 0,
  ...more,
});
