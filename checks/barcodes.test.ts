import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { canonicalGtin, gs1CheckDigit, hasGs1CheckDigit, isS10, seeded } from '@auk/core';
import { drawBoxLabels, drawPalletLabels } from '@auk/server/printing/inboundPapers';
import { drawLabels } from '@auk/server/printing/label';
import { onPaper, pagesOf } from '@auk/server/printing/labelPages';
import { code128Widths } from '@auk/server/printing/paper';
import { drawPickList } from '@auk/server/printing/pickListSheet';
import { drawTags } from '@auk/server/printing/tags';
import { together } from '@auk/server/printing/together';
import { validate as gs1IsValid } from 'gs1';
import { isValid as gtinIsValid } from 'gtin';
import { PDFDocument } from 'pdf-lib';
import { expect, test } from 'vitest';
import { prepareZXingModule, readBarcodes } from 'zxing-wasm/reader';

// The reader's wasm lies in its package; without this it would be fetched from elsewhere.
const wasm = readFileSync(createRequire(import.meta.url).resolve('zxing-wasm/reader/zxing_reader.wasm'));
prepareZXingModule({
  overrides: { wasmBinary: wasm.buffer.slice(wasm.byteOffset, wasm.byteOffset + wasm.length) as ArrayBuffer },
});

const random = seeded(7);
const digits = (n: number) => Array.from({ length: n }, () => Math.floor(random() * 10)).join('');

// Source: the registry libraries gtin 1.0.2 and gs1 1.0.2, which share no code with ours.
test('GTIN check digits agree with two independent libraries on 10,000 random codes', () => {
  let valid = 0;
  for (let i = 0; i < 10_000; i++) {
    const length = [8, 12, 13, 14][i % 4]!;
    const body = digits(length - 1);
    const code = i % 3 === 0 ? body + gs1CheckDigit(body) : body + digits(1);
    const ours = hasGs1CheckDigit(code);
    if (ours) valid++;
    expect(ours, code).toBe(gtinIsValid(code));
    expect(ours, code).toBe(gs1IsValid(code));
    if (length > 8) expect(canonicalGtin(code) !== null, code).toBe(ours);
  }
  expect(valid).toBeGreaterThan(3_000);
});

const ADDRESS = {
  name: 'Marguerite Okafor',
  company: '',
  line1: '118 Tatnall Street',
  line2: '',
  city: 'Boise',
  region: 'ID',
  postcode: '83702',
  country: 'US',
  phone: '',
};
const textOf = (tracking: string) => ({
  parcelNo: 'PA-1042',
  carrier: 'Heron Post',
  service: 'Heron Parcel',
  tracking,
  routing: '837 Z8',
  weight: '3 lb',
  to: ADDRESS,
  from: ADDRESS,
  reference: 'FM-1',
  day: '23 Nov 2026',
});
const label = (tracking: string) => drawLabels([textOf(tracking)]);

/** Rasterises a PDF as a 203 dpi printer would and reads every barcode in it. */
async function readBack(pdf: Buffer, mode: 'gray' | 'mono'): Promise<string[]> {
  const folder = mkdtempSync(join(tmpdir(), 'auk-raster-'));
  try {
    writeFileSync(join(folder, 'a.pdf'), pdf);
    // A monochrome raster has no PNG form here, so it is read as PBM and handed over as plain pixels.
    execFileSync('pdftoppm', [
      '-r',
      '203',
      ...(mode === 'mono' ? ['-mono'] : ['-gray', '-png']),
      '-f',
      '1',
      '-l',
      '1',
      '-singlefile',
      join(folder, 'a.pdf'),
      join(folder, 'a'),
    ]);
    const file = readFileSync(join(folder, mode === 'mono' ? 'a.pbm' : 'a.png'));
    const image = mode === 'mono' ? fromPbm(file) : new Blob([file]);
    const found = await readBarcodes(image, { textMode: 'Plain', tryHarder: true, maxNumberOfSymbols: 60 });
    return found.map(f => f.text);
  } finally {
    rmSync(folder, { recursive: true });
  }
}

/** Pixels of a raw PBM (P4): one bit a pixel, 1 is black, rows padded to bytes. */
function fromPbm(file: Buffer): ImageData {
  const head = /^P4\s+(\d+)\s+(\d+)\s/.exec(file.subarray(0, 40).toString('latin1'))!;
  const [width, height] = [Number(head[1]), Number(head[2])];
  const bytes = file.subarray(head[0].length);
  const data = new Uint8ClampedArray(width * height * 4).fill(255);
  const stride = Math.ceil(width / 8);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      if ((bytes[y * stride + (x >> 3)]! >> (7 - (x & 7))) & 1)
        data.fill(0, (y * width + x) * 4, (y * width + x) * 4 + 3);
  return { data, width, height, colorSpace: 'srgb' } as ImageData;
}

// Source: zxing-wasm 3.1.4 reads what poppler's pdftoppm rasterised.
test.each(['gray', 'mono'] as const)(
  'the label’s tracking barcode is read back from the %s raster',
  async mode => {
    for (const tracking of ['HP470000017US', 'RF0047000001'])
      for (const paper of ['4x6', 'half'] as const) {
        const page = await onPaper(await PDFDocument.load(await label(tracking)), paper);
        expect(await readBack(page, mode), paper).toEqual([tracking]);
      }
    const two = await pagesOf([textOf('HP470000017US'), textOf('RF0047000001')]);
    expect((await readBack(await onPaper(two, 'two'), mode)).sort()).toEqual([
      'HP470000017US',
      'RF0047000001',
    ]);
  },
);

// Source: zxing-wasm 3.1.4, as above; the element string of a GS1-128 is its application identifier and the number.
test.each(['gray', 'mono'] as const)(
  'a box of a shipment is read back from the %s raster: its carrier’s number and its SSCC, on one sheet',
  async mode => {
    const box = (sscc: string, tracking: string | null) => ({
      sscc,
      box: 'BX-4',
      weightMg: 15_000_000,
      heavy: true,
      tracking,
      contents: [{ sku: 'JAR-HEX-12', name: 'Honey jar', units: 24, lot: 'L-1', expiry: '2027-05-31' }],
    });
    const shipment = (tracking: string | null) => ({
      no: 'IN-77',
      name: 'Quiet Harbor',
      network: 'Fernway Centers',
      center: 'Columbus',
      carrier: 'Fernway Pick-up',
      prefixLength: 9,
      from: ADDRESS,
      to: ADDRESS,
      boxes: [box('095200011200000015', tracking)],
      pallets: [
        {
          sscc: '095200011200000022',
          boxes: 12,
          height: 12_000,
          weightMg: 90_000_000,
          tracking: 'NF10001001',
        },
      ],
    });
    const none = new Map<string, Buffer>();
    expect((await readBack(await drawBoxLabels(shipment('NF10001001'), none), mode)).toSorted()).toEqual([
      '00095200011200000015',
      'NF10001001',
    ]);
    expect(await readBack(await drawBoxLabels(shipment(null), none), mode)).toEqual(['00095200011200000015']);
    // A pallet's label stands twice on its sheet, for two sides.
    const pallet = await readBack(await drawPalletLabels(shipment(null)), mode);
    expect(new Set(pallet)).toEqual(new Set(['00095200011200000022']));
    // What our own carrier gave is on the same sheet as the center's number.
    const own = await label('HP00012345');
    const both = await drawBoxLabels(shipment(null), new Map([['095200011200000015', own]]));
    expect(new Set(await readBack(both, mode))).toEqual(
      new Set(['00095200011200000015', ...(await readBack(own, mode))]),
    );
  },
);

test.each(['gray', 'mono'] as const)(
  'every barcode of a pick list is read back from the %s raster',
  async mode => {
    const places = ['A-01-1', 'B-07-2', 'C-11-3', 'D-02-1', 'H-12-3'];
    const rows = places.map((place, i) => ({
      seq: i + 1,
      place,
      aisle: 0,
      along: 0,
      sku: 'SKU',
      name: 'Frame, deep',
      quantity: 3,
      taken: 0,
      tote: 'A1',
      order: 'OR-1',
    }));
    const pdf = await drawPickList({
      id: 'x',
      no: 'PL-1042',
      state: 'released',
      orders: 2,
      stops: 5,
      units: 15,
      taken: 0,
      missing: 0,
      metres: 120,
      picker: null,
      for: null,
      cutOff: null,
      createdAt: '',
      rows,
      by: [],
    });
    expect((await readBack(pdf, mode)).toSorted()).toEqual([...places, 'PL-1042'].toSorted());
    // Put together with other papers it is the same.
    const batch = await together([pdf, pdf]);
    expect((await readBack(batch, mode)).toSorted()).toEqual([...places, 'PL-1042'].toSorted());
  },
);

// Source: zxing-wasm 3.1.4, as above.
test.each(['gray', 'mono'] as const)(
  'labels of places and products are read back from the %s raster, on a sheet and from a label printer',
  async mode => {
    const places = ['A-01-1', 'H-12-3-B', 'DOCK-1', 'QUARANTINE'];
    const tags = places.map(code => ({ code, words: code, small: 'Shelves' }));
    expect((await readBack(await drawTags(tags, 'sheet'), mode)).toSorted()).toEqual(places.toSorted());
    for (const code of ['H-12-3-B', '2000000000015', 'SET-JAR12-16'])
      expect(
        await readBack(
          await drawTags([{ code, words: 'Honey jar, hex, 12 oz', small: code }], 'thermal'),
          mode,
        ),
      ).toEqual([code]);
  },
);

// Source: ISO/IEC 15417, from memory: PJJ123C in code set B has check value 55; the symbol ends with the stop pattern 2331112.
test('Code 128 has the published check value and stop pattern', () => {
  const widths = code128Widths('PJJ123C');
  expect(widths.slice(-7)).toEqual([2, 3, 3, 1, 1, 1, 2]);
  // In the standard’s table value 55 is 3 1 1 3 2 1; its neighbour 54, the check value in code set A, is 3 1 1 1 2 3.
  expect(widths.slice(-13, -7)).toEqual([3, 1, 1, 3, 2, 1]);
});

// Source: UPU S10, the example from memory.
test('postal tracking numbers: the published example and a broken one', () => {
  expect(isS10('RA473124829FI')).toBe(true);
  expect(isS10('RA473124820FI')).toBe(false);
});
