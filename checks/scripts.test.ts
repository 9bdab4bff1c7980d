import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { finish, line, newPaper } from '@auk/server/printing/paper';
import { chromium } from '@playwright/test';
import { expect, test } from 'vitest';
import { CHROMIUM } from '../e2e/chromium.mjs';

const FONTS = join(import.meta.dirname, '../node_modules/@fontsource');
const SIZE = 48;
const [WIDTH, HEIGHT] = [700, 120];
/** Dots a point, so that the edge of a stroke is little beside the stroke. */
const FINE = 2;
/** Dots that a stroke may lie aside: two points at a size of 48. */
const REACH = 4;

/** Black and white pixels, row by row. */
interface Ink {
  width: number;
  black: Uint8Array;
}

/** Pixels of a raw PGM (P5). */
function inkOf(pgm: Buffer): Ink {
  const head = /^P5\s+(\d+)\s+(\d+)\s+255\s/.exec(pgm.subarray(0, 60).toString('latin1'))!;
  const width = Number(head[1]);
  return { width, black: pgm.subarray(head[0].length).map(v => (v < 128 ? 1 : 0)) };
}

/** The part of a picture that has ink, as rows of bits. */
function cropped({ width, black }: Ink): { w: number; h: number; at: (x: number, y: number) => number } {
  const rows = black.length / width;
  let [left, right, top, bottom] = [width, -1, rows, -1];
  for (let y = 0; y < rows; y++)
    for (let x = 0; x < width; x++)
      if (black[y * width + x]) {
        left = Math.min(left, x);
        right = Math.max(right, x);
        top = Math.min(top, y);
        bottom = Math.max(bottom, y);
      }
  return {
    w: right - left + 1,
    h: bottom - top + 1,
    at: (x, y) => black[(top + y) * width + left + x] ?? 0,
  };
}

type Cropped = ReturnType<typeof cropped>;

/** The share of one picture's ink that has ink of the other within reach, laid over each other by their edges. */
function near(a: Cropped, b: Cropped): number {
  let [all, found] = [0, 0];
  for (let y = 0; y < a.h; y++)
    for (let x = 0; x < a.w; x++) {
      if (!a.at(x, y)) continue;
      all++;
      search: for (let dy = -REACH; dy <= REACH; dy++)
        for (let dx = -REACH; dx <= REACH; dx++)
          if (x + dx >= 0 && x + dx < b.w && y + dy >= 0 && y + dy < b.h && b.at(x + dx, y + dy)) {
            found++;
            break search;
          }
    }
  return found / all;
}

/** How alike two pictures are, from 0 to 1: strokes may lie a little aside, as spaces and pairs of letters are set a little wider or closer. */
function alike(one: Ink, other: Ink): number {
  const [a, b] = [cropped(one), cropped(other)];
  return Math.min(near(a, b), near(b, a));
}

async function onPaper(text: string): Promise<Ink> {
  const paper = newPaper([WIDTH, HEIGHT], 'a line');
  line(paper, 'body', SIZE, text, 20, 20, WIDTH - 40);
  const folder = mkdtempSync(join(tmpdir(), 'auk-script-'));
  try {
    writeFileSync(join(folder, 'a.pdf'), await finish(paper));
    execFileSync('pdftoppm', [
      '-r',
      String(72 * FINE),
      '-gray',
      '-singlefile',
      join(folder, 'a.pdf'),
      join(folder, 'a'),
    ]);
    return inkOf(readFileSync(join(folder, 'a.pgm')));
  } finally {
    rmSync(folder, { recursive: true });
  }
}

/** The same text as Chromium draws it with the same fonts. */
async function inBrowser(texts: readonly string[]): Promise<Ink[]> {
  const url = (file: string) => `data:font/woff;base64,${readFileSync(join(FONTS, file)).toString('base64')}`;
  const faces = {
    Own: 'atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff',
    Arabic: 'noto-sans-arabic/files/noto-sans-arabic-arabic-400-normal.woff',
    Chinese: 'noto-sans-sc/files/noto-sans-sc-chinese-simplified-400-normal.woff',
  };
  const browser = await chromium.launch(CHROMIUM);
  try {
    const page = await browser.newPage({
      viewport: { width: WIDTH, height: HEIGHT },
      deviceScaleFactor: FINE,
    });
    const drawn: Ink[] = [];
    for (const text of texts) {
      await page.setContent(
        `<style>${Object.entries(faces)
          .map(([name, file]) => `@font-face { font-family: ${name}; src: url(${url(file)}) }`)
          .join(
            '',
          )} p { margin: 20px; font: ${SIZE}px Own, Arabic, Chinese; white-space: nowrap; unicode-bidi: plaintext; text-align: left }</style><p>${text}</p>`,
      );
      await page.evaluate(() => document.fonts.ready);
      // Read as pixels by the page itself: no reader of pictures of ours stands between.
      const png = `data:image/png;base64,${(await page.screenshot()).toString('base64')}`;
      const black = await page.evaluate(async source => {
        const image = new Image();
        image.src = source;
        await image.decode();
        const canvas = document.createElement('canvas');
        [canvas.width, canvas.height] = [image.width, image.height];
        const pen = canvas.getContext('2d')!;
        pen.drawImage(image, 0, 0);
        const { data } = pen.getImageData(0, 0, image.width, image.height);
        return Array.from({ length: data.length / 4 }, (_, i) => (data[4 * i]! < 128 ? '1' : '0')).join('');
      }, png);
      drawn.push({ width: WIDTH * FINE, black: Uint8Array.from(black, Number) });
    }
    return drawn;
  } finally {
    await browser.close();
  }
}

const ALIKE = 0.97;

// Source: Chromium's shaping (HarfBuzz) and bidirectional order of the same text in the same fonts, as pixels.
test('Arabic stands on paper as Chromium draws it: joined, from right to left, with its numbers and brackets', async () => {
  const texts = [
    'محمد عبد الله',
    'شارع الملك فهد 45',
    'قسم (12) بيت',
    'Box 7, شركة العسل',
    '北京市朝阳区建国路88号',
  ];
  const theirs = await inBrowser(texts);
  for (const [i, text] of texts.entries())
    expect(alike(await onPaper(text), theirs[i]!), text).toBeGreaterThan(ALIKE);
  // The measure can tell: the same words the other way round are not alike.
  expect(alike(await onPaper('عبد محمد الله'), theirs[0]!)).toBeLessThan(0.9);
});
