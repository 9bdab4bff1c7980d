import { type CheckedProduct, missingForCustoms } from '@auk/core';
import { customsFacts, type Product } from '../products/products.module.js';

/** A product as the core's order check sees it. */
export function toChecked(p: Product): CheckedProduct {
  return {
    id: p.id,
    sku: p.sku,
    name: p.name,
    stage: p.stage,
    scannable: p.codes.length > 0,
    customsLacks: missingForCustoms(customsFacts(p)),
  };
}
