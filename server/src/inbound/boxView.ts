import type { InboundBoxView } from '@auk/contract';
import type { InboundBox } from '@auk/core';

/** A planned box as it is kept and drawn; lines of the plan are named by their SKU. */
export const boxView = (b: InboundBox, i: number): InboundBoxView => ({
  no: i + 1,
  code: b.box.code,
  name: b.box.name,
  inner: b.box.inner,
  weightMg: b.weightMg,
  heavy: b.heavy,
  placed: b.placed.map(({ piece, ...at }) => ({ ...at, sku: piece.id.replace(/ case$/, '') })),
  contents: b.contents.map(({ id, units, cases }) => ({ sku: id, units, cases })),
});
