import type { OrderLineView, OrderView } from '@auk/contract';
import { HOLDS } from '@auk/core';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import { expect, test } from 'vitest';
import { shown } from '../parts/shown.js';
import { LineRows } from './parts/LineRows.js';

const held = (some: Record<string, number>) => ({ ...Object.fromEntries(HOLDS.map(h => [h, 0])), ...some });
const part = (more: object = {}) => ({
  id: 'p',
  productId: 'jar',
  sku: 'JAR-12',
  name: 'Honey jar',
  quantity: 3,
  optional: false,
  held: held({ soft: 2 }),
  ...more,
});
const line = (more: object = {}): OrderLineView =>
  ({
    id: 'l',
    key: 'FM-JAR#1',
    channelSku: 'FM-JAR',
    title: 'Jar of honey',
    quantity: 3,
    priceMinor: 135,
    taxPpm: null,
    taxMinor: 20,
    weightMg: null,
    leaveOut: null,
    units: 1,
    total: { goods: 405, discount: 0, tax: 20 },
    product: { id: 'jar', sku: 'JAR-12', name: 'Honey jar', kind: 'piece', picture: null, missing: [] },
    parts: [part()],
    ...more,
  }) as unknown as OrderLineView;
const order = { row: { currency: 'USD' }, draft: false } as unknown as OrderView;
const rows = (
  l: OrderLineView,
  more: { draft?: boolean; can?: boolean; split?: Record<string, number> } = {},
) =>
  shown(
    <Table>
      <TableBody>
        <LineRows
          line={l}
          order={{ ...order, draft: more.draft ?? false }}
          save={() => undefined as never}
          can={more.can ?? false}
          split={{ on: more.split !== undefined, units: more.split ?? {}, set: () => undefined }}
        />
      </TableBody>
    </Table>,
  );

test('a line tells its product, where its pieces stand, what is missing of them, and its sum', () => {
  const { words, markup } = rows(line());
  expect(words).toContain('Honey jar JAR-12 2 reserved, 1 missing');
  expect(words).toMatch(/\$0\.20 \$4\.05$/);
  for (const value of ['value="3"', 'value="$1.35"']) expect(markup).toContain(value);
  expect(markup).toContain('href="/products/JAR-12"');
});

test('a line that nobody linked is told by the channel’s words, and one of a draft stands nowhere yet', () => {
  const words = rows(line({ product: null, parts: [] })).words;
  expect(words).toContain('Jar of honey FM-JAR');
  expect(rows(line(), { draft: true }).words).not.toContain('reserved');
});

test('a bundle is told with its parts, each where it stands', () => {
  const parts = [
    part({ held: held({ picked: 3 }) }),
    part({
      id: 'q',
      productId: 'lid',
      sku: 'LID',
      name: 'Lid',
      quantity: 6,
      held: held({ listed: 4, packed: 2 }),
    }),
  ];
  const product = { id: 'set', sku: 'SET', name: 'Honey set', kind: 'bundle', picture: null, missing: [] };
  const words = rows(line({ product, parts })).words;
  expect(words).toContain('Honey set bundle SET');
  expect(words).toContain('3 Honey jar JAR-12 3 picked');
  expect(words).toContain('6 Lid LID 4 listed, 2 packed');
});

test('several units a sale, a declared weight, and what may be left out are told', () => {
  const words = rows(line({ units: 2, weightMg: 992_233, parts: [part({ optional: true })] })).words;
  expect(words).toContain('2 of it a sale');
  expect(words).toContain('declared 2 lb 3 oz');
  expect(words).toContain('may be left out');
  expect(rows(line()).words).not.toContain('may be left out');
  // Without parts the line's own word counts.
  expect(rows(line({ product: null, parts: [], leaveOut: 'yes' })).words).toContain('may be left out');
});

test('what a product lacks is told with what that costs, its missing barcode is not', () => {
  const missing = [
    { fact: 'code', costs: 'It cannot be scanned.' },
    { fact: 'weight', costs: 'Its price is a guess.' },
  ];
  const product = { id: 'jar', sku: 'JAR-12', name: 'Honey jar', kind: 'piece', picture: null, missing };
  const words = rows(line({ product })).words;
  expect(words).toContain('Its price is a guess.');
  expect(words).not.toContain('It cannot be scanned.');
});

test('while units are split off, each line asks how many, of how many', () => {
  const { words, markup } = rows(line(), { can: true, split: { 'FM-JAR#1': 2 } });
  expect(words).toContain('of 3');
  expect(markup).toContain('aria-label="Units of Jar of honey to split off"');
  expect(markup).toContain('value="2"');
  expect(markup).not.toContain('Take out');
  expect(rows(line(), { can: true }).markup).toContain('Take out Jar of honey');
});
