import { guessedCase, type LineToBox, type WayLine } from '@auk/core';
import { pieceOf } from '../products/products.module.js';
import type { LoadedLine } from './loading.service.js';

/** Lines as boxes are planned; a case that nobody measured has the size that is guessed from its units. */
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
      inCases:
        line.perCase === null ? null : { units: line.perCase, ...guessedCase(size, weightMg, line.perCase) },
      prepare: needs,
      by: line.preparedBy,
    };
  });
}
