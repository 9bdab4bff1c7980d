import { PDFDocument } from 'pdf-lib';
import { expect, test } from 'vitest';
import { drawTags, type Tag } from '../src/printing/tags.js';
import { pagesOf } from './pdf.js';

const tag = (i: number): Tag => ({ code: `HOOK-${i}`, words: `Brass hook ${i}`, small: `place ${i}` });

test('labels of many units come in their order, one a page or thirty a sheet, and each is drawn once', async () => {
  const tags = [...Array(70).fill(tag(1)), ...Array(3).fill(tag(2)), ...Array(1_000).fill(tag(1)), tag(3)];
  const thermal = await drawTags(tags, 'thermal');
  const pages = pagesOf(thermal);
  expect(pages).toHaveLength(tags.length);
  for (const at of [0, 69, 70, 72, 73, 1_072, 1_073]) {
    expect(pages[at], String(at)).toContain(tags[at]!.words);
    expect(pages[at]).toContain(tags[at]!.code);
  }
  const first = (await PDFDocument.load(thermal)).getPage(0);
  expect([first.getWidth(), first.getHeight()]).toEqual([162, 90]);
  const sheet = await drawTags(tags, 'sheet');
  const sheets = pagesOf(sheet);
  expect(sheets).toHaveLength(Math.ceil(tags.length / 30));
  const count = (text: string, of: string) => text.split(of).length - 1;
  expect(sheets.map(s => count(s, 'HOOK-')).reduce((a, b) => a + b, 0)).toBe(tags.length);
  expect([count(sheets[2]!, 'HOOK-1'), count(sheets[2]!, 'HOOK-2')]).toEqual([27, 3]);
  // A label drawn anew for each would be some 800 bytes each.
  expect(thermal.length).toBeLessThan(200 * tags.length);
  expect(sheet.length).toBeLessThan(200 * tags.length);
});

test('different labels lie on their sheet row by row', async () => {
  const [one, two] = pagesOf(
    await drawTags(
      Array.from({ length: 31 }, (_, i) => tag(i)),
      'sheet',
    ),
  );
  expect(one!.indexOf('HOOK-0')).toBeLessThan(one!.indexOf('HOOK-29'));
  expect(two).toContain('HOOK-30');
});
