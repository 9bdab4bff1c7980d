import type { ScanProduct } from '@auk/core';

/** A product for tests of what is shown: its code is its SKU. */
export const sampleProduct = (sku: string): ScanProduct => ({
  id: sku,
  sku,
  name: `Product ${sku}`,
  codes: [{ code: sku, units: 1 }],
  picture: null,
  hint: null,
});
