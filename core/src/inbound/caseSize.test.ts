import fc from 'fast-check';
import { expect, test } from 'vitest';
import { guessedCase } from './caseSize.js';

test('twelve jars stand so that the carton needs the least board', () => {
  const { size, weightMg } = guessedCase({ length: 690, width: 690, height: 1_170 }, 190_000, 12);
  const sides = [size.length, size.width, size.height].sort((a, b) => a - b);
  expect(sides).toEqual([690 * 2 + 60, 690 * 3 + 60, 1_170 * 2 + 60]);
  expect(weightMg).toBe(Math.ceil(190_000 * 12 * 1.03));
});

test('a case holds its units: its volume is at least theirs, and no arrangement of them needs less board', () => {
  const side = fc.integer({ min: 100, max: 3_000 });
  fc.assert(
    fc.property(side, side, side, fc.integer({ min: 1, max: 48 }), (length, width, height, units) => {
      const { size } = guessedCase({ length, width, height }, 1_000, units);
      expect(size.length * size.width * size.height).toBeGreaterThan(length * width * height * units);
      const row = { l: length * units, w: width, h: height };
      const boardOf = (l: number, w: number, h: number) => l * w + l * h + w * h;
      expect(boardOf(size.length - 60, size.width - 60, size.height - 60)).toBeLessThanOrEqual(
        boardOf(row.l, row.w, row.h),
      );
    }),
  );
});
