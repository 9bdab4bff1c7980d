import type { Address } from '@auk/core';
import { expect, test } from 'vitest';
import { fontFor } from '../src/printing/fonts.js';
import { drawHandover } from '../src/printing/handoverSheet.js';
import { drawInvoice } from '../src/printing/invoice.js';
import { drawLabels } from '../src/printing/label.js';
import { code128Widths, newPaper } from '../src/printing/paper.js';
import { drawScanSheet } from '../src/printing/scanSheet.js';
import { drawSlip } from '../src/printing/slip.js';
import { visualOrder } from '../src/printing/visualOrder.js';
import { pagesOf } from './pdf.js';
import { ADDRESS } from './samples.js';

const label = (to: Partial<Address>) =>
  drawLabels([
    {
      parcelNo: 'PA-7',
      carrier: 'Heron Post',
      service: 'Heron Parcel',
      tracking: 'HP470000017US',
      routing: '837 Z8',
      weight: '3 lb',
      to: { ...ADDRESS, ...to },
      from: ADDRESS,
      reference: 'FM-1',
      day: '23 Nov 2026',
    },
  ]);

test('a label is one page with receiver, routing and tracking in words', async () => {
  const pages = pagesOf(await label({ company: 'Penrose Apiaries' }));
  expect(pages).toHaveLength(1);
  for (const words of [
    'Ruth Penrose',
    'Penrose Apiaries',
    'Boise, ID 83702',
    '837 Z8',
    'HP470000017US',
    'PA-7',
    'FM-1',
  ])
    expect(pages[0]).toContain(words);
});

test('a label abroad names the country, and names beyond Latin-1 keep their letters', async () => {
  const [page] = pagesOf(
    await label({
      name: 'Łucja Dvořák Müller',
      country: 'PL',
      postcode: '00-001',
      city: 'Warszawa',
      region: '',
    }),
  );
  expect(page).toContain('POLAND');
  expect(page).toContain('Dvořák Müller');
  expect(page).toContain('Łucja');
});

test('a name of 80 characters and emoji stays on one page', async () => {
  expect(pagesOf(await label({ name: `${'Bartholomew '.repeat(7)}👩‍🌾` }))).toHaveLength(1);
});

test('a slip of many lines goes over several pages and loses none', async () => {
  const lines = Array.from({ length: 40 }, (_, i) => ({
    quantity: i + 1,
    name: `Thing number ${i + 1}`,
    sku: `SKU-${i + 1}`,
    places: ['A-01-1'],
    price: null,
  }));
  const pages = pagesOf(
    await drawSlip({
      code: 'OR-1',
      channelNumber: 'FM-1',
      heading: 'Skepside',
      from: ADDRESS,
      to: ADDRESS,
      notes: ['Gift: no prices in the box.'],
      message: 'Thank you.',
      total: null,
      lines,
    }),
  );
  expect(pages).toHaveLength(3);
  const all = pages.join('\n');
  for (const l of lines) expect(all).toContain(`${l.name} `);
  expect(all).toContain('Gift: no prices in the box.');
});

test('a handover sheet lists what goes and only that', async () => {
  const parcel = (no: string, scanned: boolean) => ({
    no,
    order: 'FM-1',
    buyer: 'Ruth',
    tracking: `T${no}`,
    service: 'S',
    scanned,
    held: null,
    weightMg: 1_360_777,
  });
  const [page] = pagesOf(
    await drawHandover(
      {
        id: 'x',
        no: 'DE-1',
        carrierName: 'Heron Post',
        name: 'second collection',
        cutOff: '',
        state: 'closed',
        reason: '',
        strange: [],
        bookedAs: 'HEC-1001',
        manifest: 'HEM-5001',
        parcels: [parcel('PA-1', true), parcel('PA-2', false)],
      },
      'Mon 23 Nov 2026, 17:30',
    ),
  );
  expect(page).toContain('1 parcel ');
  expect(page).toContain('Together: 1 parcel, 3 lb (1.36 kg) · collection HEC-1001 · manifest HEM-5001');
  expect(page).toContain('TPA-1');
  expect(page).not.toContain('TPA-2');
});

test('the scan sheet holds the commands and the boxes', async () => {
  const boxes = Array.from({ length: 6 }, (_, i) => ({
    code: `BX-${i + 1}`,
    name: `Box B${i + 1}`,
    does: '9 × 6 × 2 in',
  }));
  const pages = pagesOf(await drawScanSheet(boxes)).filter(p => p.trim() !== '');
  expect(pages).toHaveLength(2);
  for (const words of ['Undo', 'Label', 'Set aside', 'Not enough', 'Next box', 'AUK-WITHOUT'])
    expect(pages[0]).toContain(words);
  for (const words of ['Box B6', 'BX-6']) expect(pages[1]).toContain(words);
});

test('Code 128 refuses what it cannot hold', () => {
  for (const bad of ['', 'ü', 'a\nb', 'x'.repeat(61)]) expect(() => code128Widths(bad)).toThrow('Code 128');
});

test('names in other scripts keep their characters, emoji too, and nothing of a long line is cut, on one page', async () => {
  const [page, more] = pagesOf(
    await label({
      name: 'שלום כהן',
      company: 'Пасека Иванов 🐝 王小明',
      line1: 'xyz'.repeat(20),
      city: 'Αθήνα',
    }),
  );
  expect(more).toBeUndefined();
  expect(page).toContain('Пасека Иванов 🐝 王小明');
  expect(page).toContain('Αθήνα');
  // A viewer gives the letters of the words; their order on paper runs from the right.
  for (const letter of 'שלוםכהן') expect(page).toContain(letter);
  expect(page).not.toContain('…');
  expect(page!.replace(/\s/g, '')).toContain('xyz'.repeat(20));
});

test('every script has its letters: none of these becomes a box', () => {
  const paper = newPaper([288, 432], 'scripts');
  const texts = [
    'Zażółć gęślą jaźń, Đường Lê Lợi, Þórður Æðelsson, Ωmega Ñandú ĳ ẞ',
    'Пасека Ђорђевић Київ',
    'محمد عبد الله گل پارسی ٣٤',
    'עברית שלום',
    '北京市朝阳区 鲤馒 東京都 ひらがな カタカナ 龍',
    '서울특별시 김철수',
    '🐝🍯👩‍🌾🇺🇸☎️',
  ];
  for (const text of texts)
    for (const { segment } of new Intl.Segmenter('en').segment(text))
      for (const face of ['body', 'bold', 'code'] as const)
        for (const c of fontFor(paper, face, segment) ? [] : segment.replace(/[\u200d\ufe0f]/gu, ''))
          expect(fontFor(paper, face, c), `${c} of ${text} in ${face}`).not.toBeNull();
});

test('what runs from right to left stands in the order of Unicode’s rules', () => {
  // Drawn from left to right; letters of a word are turned by its font.
  expect(visualOrder('Ruth Whitlow')).toEqual(['Ruth Whitlow']);
  expect(visualOrder('שלום כהן')).toEqual(['כהן', ' ', 'שלום']);
  expect(visualOrder('רחוב 12 (א)')).toEqual(['(', 'א', ')', ' ', '12', ' ', 'רחוב']);
  expect(visualOrder('Hotel שלום כהן')).toEqual(['Hotel ', 'כהן', ' ', 'שלום']);
});

test('an invoice adds up: lines, tax, discount, what is due', async () => {
  const [page] = pagesOf(
    await drawInvoice({
      code: 'OR-1',
      channelNumber: 'FM-1',
      heading: 'Skepside',
      from: ADDRESS,
      billTo: { ...ADDRESS, name: 'Payer' },
      shipTo: ADDRESS,
      day: '23 November 2026',
      lines: [
        { quantity: 2, name: 'Jar', sku: 'J', each: '$1.35', rate: '7.25 %', tax: '$0.20', total: '$2.90' },
      ],
      sums: [
        ['Goods', '$2.70'],
        ['Total', '$2.90', 'large'],
      ],
      message: 'Payable within 14 days.',
    }),
  );
  for (const words of ['Invoice FM-1', 'Payer', '7.25 %', '$0.20', '$2.90', 'Payable within 14 days.'])
    expect(page).toContain(words);
});
