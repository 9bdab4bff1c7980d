import { type Parsed, parseScan } from '../barcode/parseScan.js';
import { type Answer, refuse, type Scan } from '../scans/scan.js';
import { count, quoted } from '../text.js';
import { serialOf, unitAnswered, unitCalledOff, unitScanned } from './packAsking.js';
import { chooseBox, closeLast, nextBox, photoTaken, takeWeight, weigh } from './packClose.js';
import { moveAll, pack, takeBack } from './packMoves.js';
import { packNews } from './packNews.js';
import {
  type Asking,
  askingHint,
  lineAtHand,
  openNotes,
  type PackLine,
  type PackMove,
  type PackScan,
  type PackState,
  type PackStep,
  packClosed,
  packDone,
  packHint,
  packLineOpen,
  parcelAtHand,
  plannedOpen,
  questionOf,
  readFirst,
} from './packState.js';

/**
 * Answers one scan at the bench: products, kits by own code or parts, boxes, a weight with its unit, commands, and what is told of units
 * and notes; or news of the house.
 */
export function packScan(state: PackState, scan: PackScan): PackStep {
  if (scan.news) return packNews(state, scan.news);
  const parsed = parseScan(scan.text, yearOf(scan));
  if (parsed.ok && parsed.value.type === 'own' && parsed.value.code === state.orderNo)
    return told(state, `${state.orderNo} is open already.`);
  if (packClosed(state)) return refuse(state, `${state.orderNo} is packed and closed.`, packHint(state));
  if (parsed.ok && parsed.value.type === 'command' && parsed.value.name === 'PHOTO') return photoTaken(state);
  const note = openNotes(state)[0];
  if (note) return readNote(state, parsed.ok ? parsed.value : null, scan);
  if (state.asking) return answered(state, parsed.ok ? parsed.value : null, scan);
  if (!parsed.ok) return refuse(state, parsed.problem, packHint(state));
  const p = parsed.value;
  if (p.type === 'command') return command(state, p.name);
  if (p.type === 'own' && p.kind === 'box') return chooseBox(state, p.code);
  if (p.type === 'weight') return weigh(state, p.mg);
  return product(state, p, scan);
}

const yearOf = (scan: Scan): number => Number(scan.at.slice(0, 4));

/** The serial number that a scan would keep, with its product; whoever judges looks up whether another unit has it. */
export function packSerial(state: PackState, scan: Scan): { productId: string; serial: string } | null {
  const parsed = parseScan(scan.text, yearOf(scan));
  return serialOf(state, parsed.ok ? parsed.value : null, scan.text);
}

const told = (state: PackState, says: string): PackStep => ({
  state,
  answer: { kind: 'moved', tone: 'info', says, next: packHint(state) },
  effects: [],
});

/** Before the first piece the packer's notes are read. */
function readNote(state: PackState, parsed: Parsed | null, scan: Scan): PackStep {
  const note = openNotes(state)[0]!;
  const yes = note.word
    ? scan.text.trim().toUpperCase() === note.word.toUpperCase()
    : parsed?.type === 'command' && parsed.name === 'YES';
  if (!yes) return refuse(state, `Read this first: ${note.text}`, readFirst(note));
  const next: PackState = {
    ...state,
    notes: state.notes.map(n => (n === note ? { ...n, confirmed: true } : n)),
  };
  const answer: Answer = { kind: 'set', tone: 'right', says: 'The note is confirmed.', next: packHint(next) };
  return { state: next, answer, effects: [] };
}

function answered(state: PackState, parsed: Parsed | null, scan: Scan): PackStep {
  const asking = state.asking!;
  const undo = parsed?.type === 'command' && parsed.name === 'UNDO';
  if (asking.about === 'unit')
    return undo ? unitCalledOff(state, asking) : unitAnswered(state, asking, parsed, scan);
  if (asking.about === 'apart') return apartAnswered(state, asking, parsed);
  if (parsed?.type === 'weight') return weigh(state, parsed.mg);
  if (parsed?.type === 'command' && parsed.name === 'YES') return takeWeight(state, asking.mg);
  if (undo) return told({ ...state, asking: null }, 'Undone: that weight does not count.');
  return firstThis(state, asking);
}

/** A piece that has a parcel of its own, or would lie with one: into this parcel all the same, or this one is closed first. */
function apartAnswered(
  state: PackState,
  { moves, told: facts }: Extract<Asking, { about: 'apart' }>,
  parsed: Parsed | null,
): PackStep {
  const free = { ...state, asking: null };
  const name = parsed?.type === 'command' ? parsed.name : null;
  if (name === 'YES') return pack(free, moves, facts, true);
  if (name === 'UNDO') return told(free, `Undone: ${state.lines[moves[0]!.line]!.product.name} is not in.`);
  // Boxes, weights and closing are of the parcel that is open; the piece is scanned again into the next.
  if (name === 'NEXTBOX') return command(free, name);
  if (parsed?.type === 'weight') return weigh(free, parsed.mg);
  if (parsed?.type === 'own' && parsed.kind === 'box') return chooseBox(free, parsed.code);
  return firstThis(state, state.asking!);
}

/** Whatever else is scanned, as the slip of another order, waits for the answer. */
const firstThis = (state: PackState, asking: Asking): PackStep =>
  refuse(state, `First this: ${questionOf(state, asking)}`, askingHint(state, asking));

function command(state: PackState, name: string): PackStep {
  switch (name) {
    case 'UNDO':
      return state.history.length > 0
        ? takeBack(state)
        : refuse(state, 'There is nothing to undo.', packHint(state));
    case 'ALL':
      return allTheRest(state);
    case 'WITHOUT':
      return without(state);
    case 'NEXTBOX':
      return nextBox(state);
    case 'CLOSE':
    case 'LABEL':
      return closeLast(state);
    case 'YES':
      return refuse(state, 'There is nothing to confirm.', packHint(state));
    default:
      return refuse(state, `"${name.toLowerCase()}" does nothing at the bench.`, packHint(state));
  }
}

/** All that is missing of the line at hand, where nothing is asked of each unit. */
function allTheRest(state: PackState): PackStep {
  const at = lineAtHand(state);
  const line = state.lines[at];
  if (line === undefined || packLineOpen(line) <= 0)
    return refuse(state, 'Nothing is missing.', packHint(state));
  const { warning: _, ...asked } = line.wants;
  if (Object.keys(asked).length > 0)
    return refuse(state, `Something is asked of each ${line.product.name}.`, 'Scan them one by one.');
  if (line.kitParts.some(k => k.scanned > 0))
    return refuse(state, `${line.product.name} is begun by its parts.`, packHint(state));
  if (line.wants.warning && line.packed === 0)
    return refuse(state, `Read this first: ${line.wants.warning}`, 'Scan the first one by itself.');
  const here = plannedOpen(state, line.id);
  const units = here === null || here <= 0 ? packLineOpen(line) : Math.min(here, packLineOpen(line));
  return pack(state, [{ line: at, units }]);
}

/** What may be left out is left out: the line at hand when it is such a one, else the first. */
function without(state: PackState): PackStep {
  const may = (l: PackLine | undefined) => l?.optional === true && packLineOpen(l) > 0;
  const hand = lineAtHand(state);
  const at = may(state.lines[hand]) ? hand : state.lines.findIndex(may);
  if (at === -1) return refuse(state, 'Nothing of this order may be left out.', packHint(state));
  return pack(state, [{ line: at, units: packLineOpen(state.lines[at]!), leftOut: true }]);
}

const codeOf = (p: Parsed, scan: Scan): string =>
  p.type === 'product' || p.type === 'own' ? p.code : scan.text.trim().toUpperCase();
const unitsOfCode = (l: { product: PackLine['product'] }, code: string): number | undefined =>
  l.product.codes.find(c => c.code === code)?.units;

function product(state: PackState, p: Parsed, scan: Scan): PackStep {
  const code = codeOf(p, scan);
  const found = openFirst(state.lines, l => unitsOfCode(l, code) !== undefined);
  if (found !== -1) return whole(state, found, unitsOfCode(state.lines[found]!, code)!, p, scan);
  const inBundle = openFirst(state.lines, l => l.bundle?.codes.includes(code) ?? false);
  const bundle = state.lines[inBundle]?.bundle;
  if (bundle) return wholeBundle(state, bundle.id, bundle.name, p, scan);
  const surplus = state.lines.findIndex(
    l => packLineOpen(l) < 0 && state.captured.some(c => c.line === l.id && c.serial === scan.text.trim()),
  );
  if (surplus !== -1) return takeOut(state, surplus, scan.text.trim());
  const kit = openFirst(state.lines, l => l.kitParts.some(k => unitsOfCode(k, code) !== undefined));
  if (kit !== -1) return part(state, kit, code, p, scan);
  return notOfThis(state, code, scan);
}

/** What is not of this order is named, with whose it might be. */
function notOfThis(state: PackState, code: string, scan: Scan): PackStep {
  const { known } = scan;
  if (!known) return refuse(state, `Unknown code ${quoted(code)}. No product has it.`, packHint(state));
  if (known.kind !== 'product') return refuse(state, `Not in this order: ${known.name}.`, packHint(state));
  const retired = known.retired ? ' It is retired.' : '';
  const alike = known.looksLike ? ` It looks like ${known.looksLike}, which is wanted: read the label.` : '';
  const says = `Not in this order: ${known.name}.${retired}`;
  if (known.wantedBy)
    return refuse(
      state,
      says,
      `${known.wantedBy.order} wants it${known.wantedBy.lies ? `: put it into ${known.wantedBy.lies}` : ''}.${alike}`,
    );
  return refuse(state, says, `Put it aside.${alike} ${packHint(state)}`.trim());
}

/** The first line that fits and still wants something; a complete one only when all that fit are complete. */
function openFirst(lines: PackLine[], fits: (l: PackLine) => boolean): number {
  const open = lines.findIndex(l => fits(l) && packLineOpen(l) > 0);
  return open !== -1 ? open : lines.findIndex(fits);
}

function whole(state: PackState, at: number, units: number, p: Parsed, scan: Scan): PackStep {
  const line = state.lines[at]!;
  const open = packLineOpen(line);
  if (open < 0) return takeOut(state, at, p.type === 'product' ? (p.serial ?? null) : null);
  if (open === 0)
    return refuse(
      state,
      line.leftOut > 0
        ? `${line.product.name} was left out.`
        : `One too many: ${line.packed} of ${line.wanted} ${line.product.name} ${line.wanted === 1 ? 'is' : 'are'} in already.`,
      'Put this one aside.',
    );
  if (units > open)
    return refuse(
      state,
      `That code counts ${units}, and only ${open} ${open === 1 ? 'is' : 'are'} missing.`,
      'Scan single pieces.',
    );
  const begun = line.kitParts.find(k => k.scanned > 0);
  if (begun && units === open)
    return refuse(
      state,
      `${line.product.name} was begun by its parts (${begun.product.name} is in). Finish it by its parts, or undo.`,
      packHint(state),
    );
  return unitScanned(state, [{ line: at, units }], p, scan);
}

/**
 * One unit comes out that the order does not want any more, with what was told of it. Where serial numbers were told and some of those
 * units stay, the one that comes out is scanned by its own.
 */
function takeOut(state: PackState, at: number, serial: string | null): PackStep {
  const line = state.lines[at]!;
  const { no, holds } = parcelAtHand(state);
  if (!holds[line.id])
    return refuse(
      state,
      `${line.product.name} is not in parcel ${no}, which is open.`,
      'Take the parcel that it is in open again.',
    );
  const told = state.captured.filter(c => c.line === line.id && c.parcel === no);
  const gone = told.find(c => c.serial === serial) ?? told.at(-1);
  const unclear =
    gone?.serial !== undefined && gone.serial !== serial && holds[line.id]! > -packLineOpen(line);
  if (unclear)
    return refuse(
      state,
      `Which ${line.product.name} comes out? One of them stays.`,
      'Scan the serial number of the one that you take out.',
    );
  const moved = moveAll(state, [{ line: at, units: 1 }], -1);
  const next: PackState = {
    ...moved.state,
    at,
    captured: state.captured.filter(c => c !== gone),
    history: [],
  };
  const done = packDone(next);
  return {
    state: next,
    answer: {
      kind: done ? 'complete' : 'counted',
      tone: done ? 'complete' : 'right',
      says: `${line.product.name} is out again.${done ? ' Everything is in.' : ''}`,
      next: packHint(next),
    },
    effects: gone ? [...moved.effects, { type: 'capture', captured: gone, takenBack: true }] : moved.effects,
  };
}

function wholeBundle(state: PackState, bundleId: string, name: string, p: Parsed, scan: Scan): PackStep {
  const moves: PackMove[] = state.lines.flatMap((l, line) =>
    l.bundle?.id === bundleId ? [{ line, units: l.bundle.each }] : [],
  );
  if (moves.some(m => packLineOpen(state.lines[m.line]!) < m.units))
    return refuse(
      state,
      `${name} does not fit as a whole any more: some of its parts are in already.`,
      packHint(state),
    );
  if (moves.some(m => Object.keys(state.lines[m.line]!.wants).length > 0))
    return refuse(state, `Something is asked of parts of ${name}.`, 'Scan its parts one by one.');
  return unitScanned(state, moves, p, scan);
}

function part(state: PackState, at: number, code: string, p: Parsed, scan: Scan): PackStep {
  const line = state.lines[at]!;
  const i = line.kitParts.findIndex(k => unitsOfCode(k, code) !== undefined && k.scanned < k.perKit);
  if (packLineOpen(line) <= 0 || i === -1) {
    const k = line.kitParts.find(x => unitsOfCode(x, code) !== undefined)!;
    return refuse(
      state,
      `One too many: ${line.product.name} has its ${k.perKit} ${k.product.name}.`,
      'Put this one aside.',
    );
  }
  const k = line.kitParts[i]!;
  const units = unitsOfCode(k, code)!;
  if (k.scanned + units > k.perKit)
    return refuse(
      state,
      `That code counts ${units}, and only ${count(k.perKit - k.scanned, 'more goes', 'more go')} into ${line.product.name}.`,
      'Scan single pieces.',
    );
  return unitScanned(state, [{ line: at, units, part: i }], p, scan);
}
