import type { Address } from '../orders/address.js';

/** What is told to a center of a shipment that leaves: which boxes, and what is in each. */
export interface Despatch {
  /** The number of the shipment, such as IN-77. */
  no: string;
  /** ISO days: of the message, of leaving, and of arriving where that is known. */
  day: string;
  leaves: string;
  arrives: string | null;
  from: { name: string; address: Address };
  to: { name: string; address: Address };
  boxes: readonly DespatchBox[];
  /** Pallets that the boxes stand on; none where they go as parcels. */
  pallets: readonly DespatchPallet[];
}

/** A pallet by the number of its shipping unit, with those of the boxes on it; its weight includes the pallet. */
export interface DespatchPallet {
  sscc: string;
  weightMg: number;
  boxes: readonly string[];
}

/** A box by the number of its shipping unit, with what is in it. */
export interface DespatchBox {
  sscc: string;
  weightMg: number;
  contents: readonly DespatchLine[];
}

/** Units of one product, and of one lot where it has any, in a box. `gtin` has 14 digits; null where the product has none. */
export interface DespatchLine {
  sku: string;
  gtin: string | null;
  name: string;
  units: number;
  lot: string | null;
  /** ISO day. */
  expiry: string | null;
}

/** Who exchanges the message, and its number between them. */
export interface Exchange {
  sender: string;
  receiver: string;
  reference: string;
  /** `YYMMDD:HHMM` of the sender. */
  prepared: string;
}

/** Signs that stand for something in EDIFACT (ISO 9735 level A defaults); in texts they are released by `?`. */
const released = (text: string): string =>
  text
    .replace(/[?'+:]/g, sign => `?${sign}`)
    .replace(/\s+/g, ' ')
    .trim();

/** A segment: its tag and its elements, each of components; what is empty at the end is left out. */
function segment(tag: string, ...elements: (string | readonly string[])[]): string {
  const written = elements.map(e => trimmed((typeof e === 'string' ? [e] : e).map(released), ':'));
  return `${trimmed([tag, ...written], '+')}'`;
}

function trimmed(parts: readonly string[], between: string): string {
  let last = parts.length;
  while (last > 0 && parts[last - 1] === '') last--;
  return parts.slice(0, last).join(between);
}

/** Longest part of a name in NAD and IMD. */
const PART = 35;
const parts = (text: string, most: number): string[] =>
  (text.match(new RegExp(`.{1,${PART}}`, 'gsu')) ?? []).slice(0, most);

const edifactDay = (iso: string): string => iso.replaceAll('-', '');
const kilograms = (mg: number): string => (mg / 1_000_000).toFixed(3);

/**
 * The despatch advice as an EDIFACT interchange with one DESADV message (UN/EDIFACT D.96A; order of segments from memory): the shipment, then
 * each pallet with its boxes, or the boxes alone: each with its SSCC and weight, then what is in it. One segment a line, in UTF-8 (UNOW). Refuses nothing: a shipment without boxes is one with none.
 */
export function despatchEdifact(d: Despatch, by: Exchange): string {
  const message = [
    segment('UNH', '1', ['DESADV', 'D', '96A', 'UN']),
    segment('BGM', '351', d.no, '9'),
    segment('DTM', ['137', edifactDay(d.day), '102']),
    segment('DTM', ['11', edifactDay(d.leaves), '102']),
    ...(d.arrives ? [segment('DTM', ['17', edifactDay(d.arrives), '102'])] : []),
    party('SF', d.from),
    party('ST', d.to),
    segment('CPS', '1'),
    d.pallets.length > 0
      ? segment('PAC', String(d.pallets.length), '', PALLET)
      : segment('PAC', String(d.boxes.length), '', CARTON),
    ...packages(d),
  ];
  const lines = d.boxes.reduce((n, b) => n + b.contents.length, 0);
  message.push(segment('CNT', ['2', String(lines)]));
  // The message counts its own segments, with the one that ends it.
  message.push(segment('UNT', String(message.length + 1), '1'));
  return [
    "UNA:+.? '",
    segment('UNB', ['UNOW', '4'], by.sender, by.receiver, by.prepared.split(':'), by.reference),
    ...message,
    segment('UNZ', '1', by.reference),
    '',
  ].join('\n');
}

function party(role: string, { name, address: a }: Despatch['from']): string {
  const street = [a.line1, a.line2].flatMap(l => (l ? [l.slice(0, PART)] : []));
  return segment('NAD', role, '', '', parts(name, 5), street, a.city, a.region ?? '', a.postcode, a.country);
}

/** Kinds of packages (UN/EDIFACT 7065): a pallet, a carton. */
const [PALLET, CARTON] = ['PX', 'CT'];

/** Pallets and boxes one within the other; each names the level above it. */
function packages({ boxes, pallets }: Despatch): string[] {
  let [level, line] = [1, 0];
  const unit = (above: number, kind: string, { sscc, weightMg }: { sscc: string; weightMg: number }) => [
    segment('CPS', String(++level), String(above)),
    segment('PAC', '1', '', kind),
    segment('MEA', 'PD', 'AAB', ['KGM', kilograms(weightMg)]),
    segment('PCI', '33E'),
    segment('GIN', 'BJ', sscc),
  ];
  const box = (above: number, b: DespatchBox) => [
    ...unit(above, CARTON, b),
    ...b.contents.flatMap(l => lineSegments(l, ++line)),
  ];
  if (pallets.length === 0) return boxes.flatMap(b => box(1, b));
  return pallets.flatMap(p => {
    const own = unit(1, PALLET, p);
    const at = level;
    return [...own, ...boxes.filter(b => p.boxes.includes(b.sscc)).flatMap(b => box(at, b))];
  });
}

function lineSegments(l: DespatchLine, no: number): string[] {
  return [
    l.gtin ? segment('LIN', String(no), '', [l.gtin, 'EN']) : segment('LIN', String(no)),
    segment('PIA', '1', [l.sku, 'SA']),
    segment('IMD', 'F', '', ['', '', '', ...parts(l.name, 2)]),
    segment('QTY', ['12', String(l.units), 'PCE']),
    ...(l.expiry ? [segment('DTM', ['36', edifactDay(l.expiry), '102'])] : []),
    ...(l.lot ? [segment('PCI', '36E'), segment('GIN', 'BX', l.lot)] : []),
  ];
}
