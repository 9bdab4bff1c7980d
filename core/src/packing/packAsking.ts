import type { Parsed } from '../barcode/parseScan.js';
import { expiryDay } from '../days/expiryDay.js';
import { type Answer, refuse, type Scan } from '../scans/scan.js';
import { quoted } from '../text.js';
import { pack } from './packMoves.js';
import {
  type Asking,
  askingHint,
  factAsked,
  type PackMove,
  type PackState,
  type PackStep,
  packHint,
  questionOf,
  type UnitFact,
  type UnitWants,
} from './packState.js';

type UnitAsking = Extract<Asking, { about: 'unit' }>;

/** Longest lot, serial number or answer that is taken. */
const LONGEST_FACT = 60;

/**
 * Units were scanned: they are packed when all that is wanted of them is told, by the code itself or because nothing is; else they wait
 * for the answers.
 */
export function unitScanned(state: PackState, moves: PackMove[], parsed: Parsed, scan: Scan): PackStep {
  const first = moves[0]!;
  const line = state.lines[first.line]!;
  const wants = first.part === undefined ? line.wants : {};
  if (first.units > 1 && wants.serial !== undefined)
    return refuse(
      state,
      `${line.product.name} has serial numbers, and that code counts ${first.units}.`,
      'Scan single pieces.',
    );
  const told: UnitAsking['told'] = {};
  if (wants.warning && line.packed > 0) told.warning = 'read';
  const read: Partial<Record<UnitFact, string>> = {};
  // What was picked from one lot is of that lot, unless its code says otherwise.
  if (wants.lot?.length === 1 && first.part === undefined) told.lot = wants.lot[0]!;
  if (parsed.type === 'product') {
    if (parsed.serial && wants.serial !== undefined) read.serial = parsed.serial;
    if (parsed.lot && wants.lot) read.lot = parsed.lot;
    if (parsed.expiry && wants.expiry) read.expiry = parsed.expiry;
  }
  return tellAll(state, { about: 'unit', moves, told }, wants, scan, read);
}

/** Takes facts that a code held; the first that is wrong refuses the scan. */
function tellAll(
  state: PackState,
  asking: UnitAsking,
  wants: UnitWants,
  scan: Scan,
  read: Partial<Record<UnitFact, string>>,
): PackStep {
  const told = { ...asking.told };
  for (const [fact, text] of Object.entries(read) as [UnitFact, string][]) {
    const fit = fits(state, asking, wants, fact, text, scan);
    if ('problem' in fit) return refuse(state, fit.problem, 'Put this one aside, and scan another.');
    told[fact] = fit.value;
  }
  return goOn(state, { ...asking, told }, wants);
}

/** All told: the units are packed. Else the next question. */
function goOn(state: PackState, asking: UnitAsking, wants: UnitWants): PackStep {
  const fact = factAsked(wants, asking.told);
  if (fact === null) {
    const { warning: _, ...told } = asking.told;
    return pack(state, asking.moves, told);
  }
  const next: PackState = { ...state, asking, at: asking.moves[0]!.line };
  const answer: Answer = {
    kind: 'asked',
    tone: 'attention',
    says: questionOf(next, asking),
    next: askingHint(next, asking),
  };
  return { state: next, answer, effects: [] };
}

/** An answer to what is asked of a unit. */
export function unitAnswered(
  state: PackState,
  asking: UnitAsking,
  parsed: Parsed | null,
  scan: Scan,
): PackStep {
  const line = state.lines[asking.moves[0]!.line]!;
  const fact = factAsked(line.wants, asking.told)!;
  const ask = askingHint(state, asking);
  const command = parsed?.type === 'command' ? parsed.name : null;
  if (fact === 'warning') {
    if (command === 'YES')
      return goOn(state, { ...asking, told: { ...asking.told, warning: 'read' } }, line.wants);
    return refuse(state, `Read this first: ${line.wants.warning}`, ask);
  }
  if (command) return refuse(state, `${line.product.name} is not in yet: something is asked of it.`, ask);
  const text = (parsed?.type === 'product' && fact !== 'answer' && parsed[fact]) || scan.text.trim();
  if (
    line.product.codes.some(
      c => c.code === (parsed?.type === 'product' ? parsed.code : text.toUpperCase()),
    ) &&
    text === scan.text.trim()
  )
    return refuse(state, `That is the code of ${line.product.name} itself.`, ask);
  const fit = fits(state, asking, line.wants, fact, text, scan);
  if ('problem' in fit) return refuse(state, fit.problem, ask);
  return goOn(state, { ...asking, told: { ...asking.told, [fact]: fit.value } }, line.wants);
}

/** Nothing of the unit is kept. */
export function unitCalledOff(state: PackState, asking: UnitAsking): PackStep {
  const next = { ...state, asking: null };
  const { name } = state.lines[asking.moves[0]!.line]!.product;
  return {
    state: next,
    answer: { kind: 'undone', tone: 'info', says: `Undone: ${name} is not in.`, next: packHint(next) },
    effects: [],
  };
}

/** The serial number that a scan would keep, with its product: the judge looks up whether another unit has it. */
export function serialOf(
  state: PackState,
  parsed: Parsed | null,
  text: string,
): { productId: string; serial: string } | null {
  const { asking } = state;
  if (asking?.about === 'unit') {
    const line = state.lines[asking.moves[0]!.line]!;
    if (factAsked(line.wants, asking.told) !== 'serial') return null;
    return {
      productId: line.product.id,
      serial: (parsed?.type === 'product' && parsed.serial) || text.trim(),
    };
  }
  if (parsed?.type !== 'product' || !parsed.serial) return null;
  const line = state.lines.find(
    l => l.wants.serial !== undefined && l.product.codes.some(c => c.code === parsed.code),
  );
  return line ? { productId: line.product.id, serial: parsed.serial } : null;
}

type Fit = { value: string } | { problem: string };

function fits(
  state: PackState,
  asking: UnitAsking,
  wants: UnitWants,
  fact: UnitFact,
  text: string,
  scan: Scan,
): Fit {
  if (text.length > LONGEST_FACT)
    return { problem: `That has ${text.length} characters; ${LONGEST_FACT} are the most.` };
  if (fact === 'serial') return serial(state, asking, wants.serial!, text, scan);
  if (fact === 'lot') return lot(wants.lot!, text);
  if (fact === 'expiry') return expiry(text, scan.at.slice(0, 10));
  return { value: text };
}

function serial(state: PackState, asking: UnitAsking, form: string, text: string, scan: Scan): Fit {
  if (form !== '' && !hasForm(text, form))
    return { problem: `${quoted(text)} is no serial number of the form ${form}.` };
  const { id } = state.lines[asking.moves[0]!.line]!.product;
  const lines = state.lines.filter(l => l.product.id === id).map(l => l.id);
  if (state.captured.some(c => c.serial === text && lines.includes(c.line)))
    return { problem: `${quoted(text)} is in this order already.` };
  if (scan.known?.kind === 'serial')
    return { problem: `${quoted(text)} left with ${scan.known.name} and did not come back.` };
  return { value: text };
}

/** Whether a text has a form: 9 stands for a digit, A for a letter, any other character for itself. */
export function hasForm(text: string, form: string): boolean {
  return (
    text.length === form.length &&
    [...form].every((f, i) =>
      f === '9' ? /\d/.test(text[i]!) : f === 'A' ? /[A-Za-z]/.test(text[i]!) : f === text[i],
    )
  );
}

function lot(known: readonly string[], text: string): Fit {
  const found = known.find(k => k.toUpperCase() === text.toUpperCase());
  if (found) return { value: found };
  return known.length === 0
    ? { value: text }
    : {
        problem: `Lot ${quoted(text)} was not picked for this order: ${known.join(' and ')} ${known.length === 1 ? 'was' : 'were'}.`,
      };
}

function expiry(text: string, today: string): Fit {
  const value = expiryDay(text, Number(today.slice(0, 4)));
  if (!value) return { problem: `${quoted(text)} is no day such as 2027-05-31 or 05/2027.` };
  return value < today ? { problem: `It expired on ${value}.` } : { value };
}
