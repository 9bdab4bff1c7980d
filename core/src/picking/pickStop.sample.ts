import { sampleProduct } from '../catalog/scanProduct.sample.js';
import type { PickStop } from './pickState.js';

/** A stop for tests: of the order OR-1, into the tote TO-001, of a product that comes in cases of twelve too. */
export const samplePickStop = (
  id: string,
  place: string,
  sku: string,
  wanted: number,
  more: Partial<PickStop> = {},
): PickStop => ({
  id,
  placeId: place,
  placeCode: place,
  wanted,
  taken: 0,
  missing: 0,
  orderNo: 'OR-1',
  tote: { id: 't', code: 'TO-001', mark: 'A1' },
  product: sampleProduct(sku, 12),
  ...more,
});
