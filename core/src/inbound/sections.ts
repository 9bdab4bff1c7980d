import { count } from '../text.js';
import type { CodeCheck } from './codes.js';
import type { LackingFact } from './preparation.js';

/** The sections of a draft in the order in which they are gone through. */
export const DRAFT_SECTIONS = ['from', 'to', 'what', 'codes', 'prepared', 'boxes'] as const;
export type DraftSection = (typeof DRAFT_SECTIONS)[number];

/** A line as the sections look at it. */
export interface DraftLine {
  sku: string;
  units: number;
  /** What of it can go now: what is free, or held for the shipment already. */
  free: number;
  code: CodeCheck | null;
  /** The goods themselves were scanned and carry the code that will be scanned there. */
  confirmed: boolean;
  lacking: readonly LackingFact[];
  /** Units that the house has prepared, of those that it prepares. */
  prepared: number;
  toPrepare: number;
  refused: string | null;
}

/** What a draft is judged by. */
export interface DraftFacts {
  from: string;
  network: string;
  storage: 'near' | 'deep';
  lines: readonly DraftLine[];
  /** Boxes that are planned or packed; null while no way was chosen. */
  boxes: { count: number; packed: number } | null;
}

/** A section with what it says; it closes when it is done. */
export interface SectionState {
  section: DraftSection;
  done: boolean;
  says: string;
}

/** The sections of a draft: what each says, and whether it is satisfied. */
export function draftSections(f: DraftFacts): SectionState[] {
  return [
    { section: 'from', done: true, says: f.from },
    { section: 'to', done: true, says: `${f.network}, ${f.storage} storage` },
    what(f.lines),
    codes(f.lines),
    prepared(f.lines),
    boxes(f),
  ];
}

const named = (lines: readonly DraftLine[]): string =>
  `${lines
    .slice(0, 3)
    .map(l => l.sku)
    .join(', ')}${lines.length > 3 ? ` and ${lines.length - 3} more` : ''}`;

function what(lines: readonly DraftLine[]): SectionState {
  const units = lines.reduce((n, l) => n + l.units, 0);
  const refused = lines.filter(l => l.refused !== null);
  const short = lines.filter(l => l.free < l.units);
  const all = `${count(lines.length, 'product')}, ${count(units, 'unit')}`;
  if (lines.length === 0) return { section: 'what', done: false, says: 'Nothing yet.' };
  if (refused.length > 0)
    return { section: 'what', done: false, says: `${all}; not taken there: ${named(refused)}` };
  if (short.length > 0)
    return { section: 'what', done: false, says: `${all}; more than can go now: ${named(short)}` };
  return { section: 'what', done: true, says: `${all}, all of it is here` };
}

function codes(lines: readonly DraftLine[]): SectionState {
  const asked = lines.filter(l => l.code !== null);
  const open = asked.filter(l => l.code!.state !== 'same' && l.code!.state !== 'case' && !l.confirmed);
  const right = asked.length - open.length;
  if (lines.length === 0) return { section: 'codes', done: false, says: 'No product yet.' };
  if (asked.length < lines.length)
    return {
      section: 'codes',
      done: false,
      says: `The network was not asked for ${count(lines.length - asked.length, 'code')} yet.`,
    };
  if (open.length === 0) return { section: 'codes', done: true, says: `${right} of ${lines.length} agree` };
  const other = open.filter(l => l.code!.state === 'other');
  const says =
    other.length > 0
      ? `${named(other)} ${other.length === 1 ? 'has another code' : 'have other codes'} there`
      : `they know no code for ${named(open)}`;
  return { section: 'codes', done: false, says: `${right} of ${lines.length} agree; ${says}` };
}

function prepared(lines: readonly DraftLine[]): SectionState {
  const lacking = lines.filter(l => l.lacking.length > 0);
  if (lines.length === 0) return { section: 'prepared', done: false, says: 'No product yet.' };
  if (lacking.length > 0)
    return { section: 'prepared', done: false, says: `Something is not known of ${named(lacking)}` };
  const done = lines.reduce((n, l) => n + l.prepared, 0);
  const all = lines.reduce((n, l) => n + l.toPrepare, 0);
  const says = done > 0 ? `${done} of ${count(all, 'unit')} prepared` : 'All that must be known is known';
  return { section: 'prepared', done: true, says };
}

function boxes({ boxes: b }: DraftFacts): SectionState {
  if (!b) return { section: 'boxes', done: false, says: 'Choose a way; its boxes are planned then.' };
  if (b.packed < b.count)
    return {
      section: 'boxes',
      done: false,
      says: `${count(b.count, 'box', 'boxes')} planned, ${b.packed} packed`,
    };
  return { section: 'boxes', done: true, says: `${count(b.count, 'box', 'boxes')} packed` };
}
