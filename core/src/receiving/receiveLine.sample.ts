import { sampleProduct } from '../catalog/scanProduct.sample.js';
import type { ReceiveLine } from './receiveState.js';

/** A line of a purchase order for tests: scanned by `C-` and its SKU, in cases of twelve, to be put away where it lies already. */
export const sampleReceiveLine = (
  sku: string,
  ordered: number,
  more: Partial<ReceiveLine> = {},
): ReceiveLine => ({
  id: sku,
  product: sampleProduct(sku, 12, `C-${sku}`),
  ordered,
  received: 0,
  lotWanted: false,
  expiryWanted: false,
  putAway: { code: 'A-01-1', why: 'it lies there already' },
  lots: [],
  ...more,
});
