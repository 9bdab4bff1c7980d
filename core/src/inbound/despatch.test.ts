import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type Despatch, despatchEdifact } from './despatch.js';
import { ssccOf } from './sscc.js';

const address = (line1: string, city: string, region: string, postcode: string) => ({
  name: '',
  company: '',
  line1,
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
const DESPATCH: Despatch = {
  no: 'IN-77',
  day: '2026-11-25',
  leaves: '2026-11-26',
  arrives: null,
  from: { name: 'Skepside Bee Supply', address: address('1 Linden Road', 'Zanesville', 'OH', '43701') },
  to: { name: 'Fernway Centers, Columbus', address: address('9 Dock Street', 'Columbus', 'OH', '43215') },
  pallets: [],
  boxes: [
    {
      sscc: sscc(1),
      weightMg: 15_420_000,
      contents: [
        {
          sku: 'JAR-HEX-12',
          gtin: '02000000000114',
          name: "Jar: 12 oz + lid, maker's",
          units: 24,
          lot: null,
          expiry: null,
        },
        { sku: 'MIT-STR-50', gtin: null, name: 'Strips', units: 6, lot: 'L-7?', expiry: '2027-05-31' },
      ],
    },
    {
      sscc: sscc(2),
      weightMg: 4_000_000,
      contents: [{ sku: 'HAT', gtin: null, name: 'Hat', units: 3, lot: null, expiry: null }],
    },
  ],
};
const BY = { sender: 'SKEPSIDE', receiver: 'FERNWAY', reference: '77', prepared: '261125:1307' };

/** Segments of an interchange, taken apart by the rules of the syntax alone: tag, then elements of components. */
function taken(text: string): string[][][] {
  const segments: string[][][] = [];
  let elements: string[][] = [];
  let components: string[] = [];
  let at = '';
  const ends = (of: "'" | '+' | ':') => {
    components.push(at);
    at = '';
    if (of === ':') return;
    elements.push(components);
    components = [];
    if (of === '+') return;
    segments.push(elements);
    elements = [];
  };
  const body = text.slice("UNA:+.? '".length).replaceAll('\n', '');
  for (let i = 0; i < body.length; i++) {
    const c = body[i]!;
    if (c === "'" || c === '+' || c === ':') ends(c);
    else at += c === '?' ? body[++i] : c;
  }
  return segments;
}

describe('the despatch advice as EDIFACT', () => {
  const segments = taken(despatchEdifact(DESPATCH, BY));
  const all = (tag: string) => segments.filter(s => s[0]![0] === tag);

  test('tells each box with its number and weight, then what is in it', () => {
    expect(segments.map(s => s[0]![0]).join(' ')).toBe(
      'UNB UNH BGM DTM DTM NAD NAD CPS PAC CPS PAC MEA PCI GIN LIN PIA IMD QTY LIN PIA IMD QTY DTM PCI GIN CPS PAC MEA PCI GIN LIN PIA IMD QTY CNT UNT UNZ',
    );
    expect(all('PAC')[0]![1]).toEqual(['2']);
    expect(all('GIN').map(s => s[2]![0])).toEqual([sscc(1), 'L-7?', sscc(2)]);
    expect(all('MEA')[0]![3]).toEqual(['KGM', '15.420']);
    expect(all('LIN').map(s => s[1]![0])).toEqual(['1', '2', '3']);
    expect(all('LIN')[0]![3]).toEqual(['02000000000114', 'EN']);
    expect(all('QTY').map(s => s[1]![1])).toEqual(['24', '6', '3']);
    // Signs of the syntax within a name are its own again.
    expect(all('IMD')[0]![3]!.slice(3).join('')).toBe("Jar: 12 oz + lid, maker's");
  });

  test('counts its own segments and lines, and names its numbers twice', () => {
    const [from, to] = [
      segments.findIndex(s => s[0]![0] === 'UNH'),
      segments.findIndex(s => s[0]![0] === 'UNT'),
    ];
    expect(all('UNT')[0]![1]).toEqual([String(to - from + 1)]);
    expect(all('UNT')[0]![2]).toEqual(all('UNH')[0]![1]);
    expect(all('UNZ')[0]).toEqual([['UNZ'], ['1'], ['77']]);
    expect(all('UNB')[0]![5]).toEqual(['77']);
    expect(all('CNT')[0]![1]).toEqual(['2', '3']);
  });

  test('on pallets each box stands within its pallet, which has a number and a weight of its own', () => {
    const pallets = [{ sscc: sscc(9), weightMg: 40_000_000, boxes: [sscc(2), sscc(1)] }];
    const found = taken(despatchEdifact({ ...DESPATCH, pallets }, BY));
    const of = (tag: string) => found.filter(s => s[0]![0] === tag);
    expect(of('CPS').map(s => s.slice(1).map(e => e[0]))).toEqual([
      ['1'],
      ['2', '1'],
      ['3', '2'],
      ['4', '2'],
    ]);
    expect(of('PAC').map(s => [s[1]![0], s[3]![0]])).toEqual([
      ['1', 'PX'],
      ['1', 'PX'],
      ['1', 'CT'],
      ['1', 'CT'],
    ]);
    expect(of('MEA')[0]![3]).toEqual(['KGM', '40.000']);
    expect(
      of('GIN')
        .filter(s => s[1]![0] === 'BJ')
        .map(s => s[2]![0]),
    ).toEqual([sscc(9), sscc(1), sscc(2)]);
    expect(of('LIN').map(s => s[1]![0])).toEqual(['1', '2', '3']);
  });

  test('whatever texts say, it is taken apart into the same', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 60 }), fc.string({ minLength: 1, maxLength: 20 }), (name, lot) => {
        const line = { ...DESPATCH.boxes[0]!.contents[0]!, name, lot };
        const found = taken(
          despatchEdifact({ ...DESPATCH, boxes: [{ ...DESPATCH.boxes[0]!, contents: [line] }] }, BY),
        );
        const count = found.findIndex(s => s[0]![0] === 'UNT') - found.findIndex(s => s[0]![0] === 'UNH') + 1;
        expect(found.find(s => s[0]![0] === 'UNT')![1]).toEqual([String(count)]);
        const told = found.filter(s => s[0]![0] === 'GIN')[1];
        expect(told?.[2]?.[0] ?? '').toBe(lot.replace(/\s+/g, ' ').trim());
      }),
    );
  });
});
