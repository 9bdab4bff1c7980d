import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { type Despatch, despatchEdifact, ssccOf } from '@auk/core';
import { despatchCsv, despatchJson, despatchUbl } from '@auk/server/inbound/despatchFiles';
import Reader from 'edifact/reader.js';
import Tracker from 'edifact/tracker.js';
import { XmlBufferInputProvider, XmlDocument, XsdValidator, xmlRegisterInputProvider } from 'libxml2-wasm';
import Papa from 'papaparse';
import { expect, test } from 'vitest';

const address = (name: string, city: string, region: string, postcode: string) => ({
  name,
  company: '',
  line1: '9 Dock Street',
  line2: '',
  city,
  region,
  postcode,
  country: 'US',
  phone: '',
});
const sscc = (n: number): string => {
  const made = ssccOf('952000112', n);
  if (!made.ok) throw new Error(made.problem);
  return made.value;
};
const line = (sku: string, units: number, more: object = {}) => ({
  sku,
  gtin: null,
  name: `Thing ${sku} & "more" <of it>`,
  units,
  lot: null,
  expiry: null,
  ...more,
});
const DESPATCH: Despatch = {
  no: 'IN-77',
  day: '2026-11-25',
  leaves: '2026-11-26',
  arrives: '2026-12-04',
  from: { name: 'Skepside Bee Supply', address: address('Skepside', 'Zanesville', 'OH', '43701') },
  to: { name: "Fernway's Centers: Columbus + Reno?", address: address('Fernway', 'Columbus', '', '43215') },
  pallets: [],
  boxes: [
    {
      sscc: sscc(1),
      weightMg: 15_420_000,
      contents: [
        line('JAR', 24, { gtin: '02000000000114' }),
        line('MIT', 6, { lot: 'L-7', expiry: '2027-05-31' }),
      ],
    },
    { sscc: sscc(2), weightMg: 4_000_000, contents: [line('HAT', 3)] },
  ],
};

/** The same on a pallet. */
const ON_PALLETS: Despatch = {
  ...DESPATCH,
  pallets: [{ sscc: sscc(3), weightMg: 39_420_000, boxes: [sscc(1), sscc(2)] }],
};

const schema = (name: string) => readFileSync(new URL(`./schemas/${name}.xsd`, import.meta.url));
const provider = new XmlBufferInputProvider({
  'ubl://Aggregates.xsd': schema('Aggregates'),
  'ubl://Basics.xsd': schema('Basics'),
});
xmlRegisterInputProvider(provider);

/** What a schema says against a document; empty when nothing. */
function against(xml: string): string {
  using rules = XmlDocument.fromBuffer(schema('DespatchAdvice'));
  using validator = XsdValidator.fromDoc(rules);
  using document = XmlDocument.fromString(xml);
  try {
    validator.validate(document);
    return '';
  } catch (error) {
    return (error as Error).message;
  }
}

// Source: UBL 2.1 (OASIS), the order and number of the elements that are used, written from the standard's list; run by libxml2-wasm 0.7.2.
test('the despatch advice is in UBL’s order of elements; a breach of it is found', () => {
  const xml = despatchUbl(DESPATCH);
  expect(against(xml)).toBe('');
  expect(against(despatchUbl(ON_PALLETS))).toBe('');
  expect(against(xml.replace(/<cac:Shipment>[\s\S]*<\/cac:Shipment>/, ''))).toBe('');
  expect(against(xml.replace(/<cac:DespatchLine>[\s\S]*<\/cac:DespatchLine>/, ''))).not.toBe('');
  expect(against(xml.replace('<cbc:IssueDate>2026-11-25', '<cbc:IssueDate>25 Nov'))).not.toBe('');
  const swapped = xml.replace(/(<cbc:ID>IN-77<\/cbc:ID>)\s*(<cbc:IssueDate>[^<]*<\/cbc:IssueDate>)/, '$2$1');
  expect(against(swapped)).not.toBe('');
});

interface Segment {
  name: string;
  elements: string[][];
}
interface Row {
  content: string | Row[];
  mandatory: boolean;
  repetition: number;
}
const TABLE: Row[] = JSON.parse(
  readFileSync(createRequire(import.meta.url).resolve('edifact/messages/DESADV.json'), 'utf8'),
);
const group = (rows: readonly Row[], head: string): Row[] =>
  rows.map(r => r.content).find((c): c is Row[] => Array.isArray(c) && c[0]!.content === head)!;
// The package's table is of a later directory, in which the numbers of packages stand elsewhere; in D.96A (from memory) they follow their marks.
group(group(group(TABLE, 'CPS'), 'PAC'), 'PCI').push({
  content: [
    { content: 'GIN', mandatory: true, repetition: 1 },
    { content: 'DLM', mandatory: false, repetition: 99 },
  ],
  mandatory: false,
  repetition: 99,
});

// Source: edifact 1.2.12, which reads interchanges and has a segment table of DESADV; it shares no code with ours.
test('the EDIFACT message follows the segment table of an independent package, with counts that agree', () => {
  const by = {
    sender: '952000112',
    receiver: 'FERNWAY',
    reference: 'IN77',
    prepared: '261125:1307',
  };
  // The package knows Unicode as UNOY alone.
  const read = (d: Despatch): Segment[] => new Reader().parse(despatchEdifact(d, by).replace('UNOW', 'UNOY'));
  const segments = read(DESPATCH);
  const [from, to] = ['UNH', 'UNT'].map(tag => segments.findIndex(s => s.name === tag)) as [number, number];
  const follows = (some: readonly Segment[]) => {
    const tracker = new Tracker(TABLE);
    for (const s of some) tracker.accept(s.name);
  };
  follows(segments.slice(from, to + 1));
  const onPallets = read(ON_PALLETS);
  follows(onPallets.slice(1, -1));
  expect(onPallets.filter(s => s.name === 'CPS').map(s => s.elements.map(e => e[0]))).toEqual([
    ['1'],
    ['2', '1'],
    ['3', '2'],
    ['4', '2'],
  ]);
  // A message without its first segment, and one with its header twice, are none.
  expect(() => follows(segments.slice(from + 1, to + 1))).toThrow();
  expect(() => follows([...segments.slice(from, from + 2), ...segments.slice(from + 1, to + 1)])).toThrow();
  const of = (tag: string) => segments.filter(s => s.name === tag);
  expect(Number(of('UNT')[0]!.elements[0]![0])).toBe(to - from + 1);
  expect(of('CNT')[0]!.elements[0]).toEqual(['2', '3']);
  const boxes = of('GIN').filter(s => s.elements[0]![0] === 'BJ');
  expect(boxes.map(s => s.elements[1]![0])).toEqual([sscc(1), sscc(2)]);
  expect(of('QTY').map(s => s.elements[0]![1])).toEqual(['24', '6', '3']);
  // Signs that mean something come back as they were.
  expect(of('NAD')[1]!.elements[3]!.join('')).toBe("Fernway's Centers: Columbus + Reno?");
});

// Source: papaparse 5.7.1 reads what ours wrote.
test('CSV and JSON say the same of each box as the advice', () => {
  const rows = Papa.parse<Record<string, string>>(despatchCsv(DESPATCH), {
    header: true,
    skipEmptyLines: true,
  }).data;
  expect(rows.map(r => [r.SSCC, r.Code, r.Units, r.Lot])).toEqual([
    [sscc(1), 'JAR', '24', ''],
    [sscc(1), 'MIT', '6', 'L-7'],
    [sscc(2), 'HAT', '3', ''],
  ]);
  expect(rows.map(r => r.Pallet)).toEqual(['', '', '']);
  const palletOf = Papa.parse<Record<string, string>>(despatchCsv(ON_PALLETS), { header: true }).data;
  expect(palletOf[2]!.Pallet).toBe(sscc(3));
  expect(JSON.parse(despatchJson(DESPATCH))).toEqual(DESPATCH);
});
