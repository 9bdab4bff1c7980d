import type { Address } from '@auk/core';
import fc from 'fast-check';
import { PDFDocument } from 'pdf-lib';
import { expect, test } from 'vitest';
import { drawInvoice } from '../src/printing/invoice.js';
import { drawLabels } from '../src/printing/label.js';
import { drawSlip } from '../src/printing/slip.js';
import { drawTags } from '../src/printing/tags.js';
import { visualOrder } from '../src/printing/visualOrder.js';
import { pagesOf } from './pdf.js';
import { ADDRESS } from './samples.js';

/** Letters of many scripts, signs that join or turn others, and halves and controls that are no letters at all. */
const PIECES = [
  ...[
    'Ruth',
    'Łucja',
    'Μαρία',
    'Пасека',
    'שלום',
    'محمد',
    'پارسی',
    'हिन्दी',
    'ไทย',
    'မြန်မာ',
    'አማርኛ',
    '北京',
    'ひらがな',
    '한국',
    '𠮷',
  ],
  ...[
    '🐝',
    '👩‍🌾',
    '🇺🇸',
    '☎️',
    '1️⃣',
    '🏴󠁧󠁢󠁳󠁣󠁴󠁿',
    'e\u0301',
    'a\u0308\u0323',
    '\u0301',
    '\u200d',
    '\u200c',
    '\ufe0f',
    '\u202e',
    '\u202c',
    '\u2066',
  ],
  ...[
    '\u0000',
    '\n',
    '\t',
    '\r\n',
    '\u0085',
    '\u2028',
    '\ud800',
    '\udc00',
    '\ufffe',
    '\ufffd',
    '\u00ad',
    '\u00a0',
    '\u3000',
    '\ue000',
  ],
  ...[
    '(',
    ')',
    '[',
    '«',
    '»',
    '12',
    '٣٤',
    '%',
    '&',
    '<b>',
    '"',
    '\\',
    '/',
    '-',
    '—',
    '…',
    ' ',
    '  ',
    'W'.repeat(40),
    'الله'.repeat(10),
  ],
];
const text = (most: number) =>
  fc.oneof(
    fc.array(fc.constantFrom(...PIECES), { maxLength: most }).map(p => p.join('')),
    fc.string({ unit: 'binary', maxLength: most * 3 }),
  );
const address: fc.Arbitrary<Address> = fc.record({
  name: text(8),
  company: text(4),
  line1: text(8),
  line2: text(3),
  city: text(4),
  region: text(1),
  postcode: fc.constantFrom('83702', '', '٣٤', '〒100-0001'),
  country: fc.constantFrom('US', 'DE', 'XX', ''),
  phone: text(2),
});
const LABEL = {
  parcelNo: 'PA-7',
  carrier: 'Heron Post',
  service: 'Heron Parcel',
  tracking: 'HP470000017US',
  routing: '',
  weight: '3 lb',
  to: ADDRESS,
  from: ADDRESS,
  reference: 'FM-1',
  day: '23 Nov 2026',
};
const pages = async (pdf: Buffer) => (await PDFDocument.load(pdf)).getPageCount();

test('whatever stands in an address, its label is one page', async () => {
  await fc.assert(
    fc.asyncProperty(address, text(2), async (to, routing) => {
      expect(await pages(await drawLabels([{ ...LABEL, routing, to }]))).toBe(1);
    }),
    { numRuns: 40 },
  );
});

test('what was drawn before leaves no trace: what stands on a label is read back from it letter by letter', async () => {
  const city = 'St. Ives, 1.50 - (e) Łucja';
  await fc.assert(
    fc.asyncProperty(address, async to => {
      await drawLabels([{ ...LABEL, to }]);
      const [page] = pagesOf(await drawLabels([{ ...LABEL, to: { ...ADDRESS, city } }]));
      expect(page).toContain(city);
    }),
    { numRuns: 10 },
  );
});

test('letters for whose marks a font has no place are drawn all the same, alone and among others', async () => {
  for (const city of ['\u0760', 'محمد \u0760 پارسی', '\u0760\u0301'])
    expect(await pages(await drawLabels([{ ...LABEL, to: { ...ADDRESS, city } }]))).toBe(1);
});

test('whatever stands in an order, its slip and its invoice are drawn, and so are labels of goods', async () => {
  const line = fc.record({ name: text(10), sku: text(3) });
  await fc.assert(
    fc.asyncProperty(address, fc.array(line, { maxLength: 4 }), text(40), async (to, lines, note) => {
      const slip = await drawSlip({
        code: 'OR-1',
        channelNumber: 'FM-1',
        heading: note.slice(0, 60),
        from: ADDRESS,
        to,
        notes: [note],
        message: note,
        total: null,
        lines: lines.map(l => ({ ...l, quantity: 1, places: ['A-01-1'], price: null })),
      });
      expect(await pages(slip)).toBe(1);
      const money = { each: '$1.35', rate: '7.25 %', tax: '$0.20', total: '$2.90' };
      const invoice = await drawInvoice({
        code: 'OR-1',
        channelNumber: 'FM-1',
        heading: 'Skepside',
        from: ADDRESS,
        billTo: to,
        shipTo: to,
        day: '23 November 2026',
        lines: lines.map(l => ({ ...l, ...money, quantity: 2 })),
        sums: [['Total', '$2.90', 'large']],
        message: note,
      });
      expect(await pages(invoice)).toBeGreaterThanOrEqual(1);
      const tags = lines.map(l => ({ code: l.sku, words: l.name, small: note }));
      if (tags.length > 0) expect(await pages(await drawTags(tags, 'thermal'))).toBe(tags.length);
    }),
    { numRuns: 20 },
  );
});

test('putting a line in the order of reading loses no letter and makes none', () => {
  const mirrored: Record<string, string> = { ')': '(', ']': '[', '»': '«', '}': '{', '>': '<', '›': '‹' };
  const letters = (s: string) =>
    [...s]
      .map(c => mirrored[c] ?? c)
      .sort()
      .join('');
  fc.assert(
    fc.property(
      fc
        .array(fc.constantFrom(...PIECES.filter(p => !/[\ud800-\udfff]/u.test(p))), { maxLength: 12 })
        .map(p => p.join('')),
      line => {
        expect(letters(visualOrder(line).join(''))).toBe(letters(line));
      },
    ),
    { numRuns: 1_000 },
  );
});
