import type { ScanProduct } from './scanProduct.js';

/** A product for tests: its name is the SKU in small letters, its code counts one, and its case as many as are told. */
export const sampleProduct = (sku: string, units?: number, code = sku): ScanProduct => ({
  id: sku,
  sku,
  name: sku.toLowerCase(),
  codes: [{ code, units: 1 }, ...(units === undefined ? [] : [{ code: `CASE-${sku}`, units }])],
  picture: null,
  hint: null,
});
