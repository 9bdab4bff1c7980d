import { expect, test } from 'vitest';
import { sampleProduct } from '../parts/scanProduct.sample.js';
import { shown } from '../parts/shown.js';
import { PieceLine } from './parts/PieceLine.js';

test('a line at the bench tells what, how many of how many, and what there is to know; whole, it has its sign', () => {
  const piece = (done: number, more: object = {}) =>
    shown(
      <PieceLine
        product={sampleProduct('JAR')}
        wanted={3}
        done={done}
        now={false}
        about={['look-alike', null, false, 'A-01-1']}
        {...more}
      />,
    );
  expect(piece(1).words).toContain('Product JAR JAR look-alike · A-01-1');
  expect(piece(1).words).toMatch(/1 of 3$/);
  expect(piece(3).words).toMatch(/3 of 3 ✓$/);
  // A line that may stay incomplete is whole when the house says so.
  expect(piece(2, { whole: true }).words).toMatch(/2 of 3 ✓$/);
  expect(piece(3, { whole: false }).words).toMatch(/3 of 3$/);
  expect(piece(1, { now: true }).markup).toContain('data-now="true"');
  expect(piece(1).markup).not.toContain('data-now');
});
