import { guessedCase, type LineToBox, type Size, type WayLine } from '@auk/core';
import { type Product, pieceOf } from '../products/products.module.js';
import type { LoadedLine } from './loading.service.js';

/** Lines as boxes are planned; what nobody measured of a case is guessed from its units. */
export function linesToBox(lines: readonly LoadedLine[]): (WayLine & LineToBox)[] {
  return lines.map(({ line, product, needs }) => {
    const piece = pieceOf(product, null);
    const size = product.size ?? { length: 1, width: 1, height: 1 };
    const weightMg = product.weightMg ?? 1;
    return {
      id: product.sku,
      units: line.units,
      size,
      weightMg,
      fragile: piece.fragile === true,
      upright: piece.upright === true,
      own: false,
      inCases: line.perCase === null ? null : { units: line.perCase, ...caseSize(product, line.perCase) },
      prepare: needs,
      by: line.preparedBy,
    };
  });
}

/** Size and weight of a case of so many: as measured, else as guessed. */
function caseSize({ size, weightMg, cases }: Product, units: number): { size: Size; weightMg: number } {
  const guess = guessedCase(size ?? { length: 1, width: 1, height: 1 }, weightMg ?? 1, units);
  const measured = cases.find(c => c.units === units);
  return { size: measured?.size ?? guess.size, weightMg: measured?.weightMg ?? guess.weightMg };
}
