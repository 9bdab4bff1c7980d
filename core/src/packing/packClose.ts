import { type Answer, refuse } from '../scans/scan.js';
import { count } from '../text.js';
import { formatWeight } from '../units/units.js';
import type { Piece } from './boxes.js';
import { tryBox } from './boxPlan.js';
import {
  asPlanned,
  type BenchBox,
  expectedMg,
  newParcel,
  openNotes,
  type PackParcel,
  type PackState,
  type PackStep,
  packDone,
  packHint,
  packLineOpen,
  packOpen,
  parcelAtHand,
  readFirst,
  unitsAtHand,
  WANTS_PHOTO,
} from './packState.js';

/** Steps that trying a box may take: it must be answered at once. */
const TRY_STEPS = 2_000;

const change = (state: PackState, parcel: Partial<PackParcel>): PackState => {
  const at = parcelAtHand(state);
  return { ...state, parcels: state.parcels.map(p => (p === at ? { ...p, ...parcel } : p)) };
};

const set = (state: PackState, says: string, tone: Answer['tone'] = 'right'): PackStep => ({
  state,
  answer: { kind: 'set', tone, says, next: packHint(state) },
  effects: [],
});

/** Another box for the parcel at hand: taken, and tried whether what is in and what is missing fits into it. */
export function chooseBox(state: PackState, code: string): PackStep {
  const box = state.boxes.find(b => b.code === code);
  if (!box)
    return refuse(
      state,
      `There is no box ${code}.`,
      `Boxes here: ${state.boxes.map(b => b.code).join(', ')}.`,
    );
  const next = change(state, { boxCode: code });
  const doubt = whyNot(next, box);
  return doubt
    ? set(next, `Box ${box.name}. ${doubt}`, 'attention')
    : set(next, `Box ${box.name}: all of it fits.`);
}

/** What speaks against a box for all that is in the parcel at hand and what is still missing; empty when nothing does. */
function whyNot(state: PackState, box: BenchBox): string {
  const at = parcelAtHand(state);
  const pieces: Piece[] = [];
  for (const l of state.lines) {
    const quantity = (at.holds[l.id] ?? 0) + Math.max(0, packLineOpen(l));
    if (quantity === 0) continue;
    if (!l.piece?.size || !box.inner)
      return `${l.product.name} has no size, so nobody knows whether it fits.`;
    pieces.push({ ...l.piece, id: l.product.sku, size: l.piece.size, quantity });
  }
  const tried = tryBox({ ...box, inner: box.inner!, priceMinor: 0 }, pieces, {
    steps: TRY_STEPS,
    padding: state.choices.padding,
  });
  if (tried.fits === 'yes') return '';
  if (tried.fits === 'unknown') return 'It is tight: no way was found to lay all of it.';
  return `Not all of it fits: ${tried.why}. Scan NEXTBOX when it is full.`;
}

/** A weight from the scale or typed, for the parcel at hand; far off what is expected, it must be confirmed. */
export function weigh(state: PackState, mg: number): PackStep {
  const parcel = parcelAtHand(state);
  const box = state.boxes.find(b => b.code === parcel.boxCode);
  if (box && mg > box.limitMg + box.tareMg)
    return refuse(
      state,
      `${inPounds(mg)} is more than box ${box.name} may hold (${inPounds(box.limitMg)}).`,
      'Take a stronger box, or weigh again.',
    );
  const expected = (packDone(state) || asPlanned(state)) && box ? expectedMg(state) : null;
  const off = expected === null ? 0 : mg - expected;
  const { toleranceMg, tolerancePpm } = state.choices;
  if (Math.abs(off) > Math.max(toleranceMg, ((expected ?? 0) * tolerancePpm) / 1_000_000)) {
    const says = `${inPounds(mg)} is about ${difference(state, off)}.`;
    const next: PackState = { ...state, asking: { about: 'weight', mg, says } };
    return {
      state: next,
      answer: { kind: 'asked', tone: 'attention', says, next: packHint(next) },
      effects: [],
    };
  }
  return set(change({ ...state, asking: null }, { weightMg: mg }), `Weight ${inPounds(mg)}.`);
}

const inPounds = (mg: number): string => formatWeight(mg, 'imperial');

/** A difference of weight as a packer says it: a piece of the order when one weighs about as much, else its weight. */
function difference(state: PackState, off: number): string {
  const side = off < 0 ? 'too light' : 'too heavy';
  const missing = Math.abs(off);
  for (const n of [1, 2, 3]) {
    const alike = state.lines
      .filter(l => l.piece && l.piece.weightMg > 0 && l.packed >= (off < 0 ? n : 1))
      .map(l => ({ line: l, gap: Math.abs(missing - n * l.piece!.weightMg) / missing }))
      .sort((a, b) => a.gap - b.gap)[0];
    if (alike && alike.gap < 0.2) return `${n === 1 ? 'one' : n} ${alike.line.product.name} ${side}`;
  }
  return `${inPounds(missing)} ${side}`;
}

/** The weight that was asked about is right. */
export const takeWeight = (state: PackState, mg: number): PackStep =>
  set(change({ ...state, asking: null }, { weightMg: mg }), `Weight ${inPounds(mg)}, as you say.`);

/** A photo of the open box was taken; the picture itself goes its own way. */
export function photoTaken(state: PackState): PackStep {
  const { photos } = parcelAtHand(state);
  return set(change(state, { photos: photos + 1 }), 'The photo is kept.');
}

/** What keeps the parcel at hand from being closed; null when nothing does. */
function notYet(state: PackState): { says: string; next: string } | null {
  const note = openNotes(state)[0];
  if (note) return { says: `Read this first: ${note.text}`, next: readFirst(note) };
  const { boxCode, weightMg, photos } = parcelAtHand(state);
  if (state.choices.photo && photos === 0) return WANTS_PHOTO;
  if (state.choices.checkOnly) return null;
  if (!boxCode) return { says: 'No box is chosen.', next: 'Scan a box.' };
  return weightMg === null
    ? {
        says: 'The parcel has no weight yet; the label needs one.',
        next: 'Put it on the scale, or type the weight such as 1.2 kg.',
      }
    : null;
}

/** Closes the last parcel: all that is wanted is in. */
export function closeLast(state: PackState): PackStep {
  const missing = packOpen(state);
  if (missing > 0)
    return refuse(
      state,
      `${count(missing, 'piece')} still missing; the parcel cannot be closed.`,
      packHint(state),
    );
  const over = state.lines.find(l => packLineOpen(l) < 0);
  if (over)
    return refuse(
      state,
      `${over.product.name} is in, and the order does not want it any more.`,
      packHint(state),
    );
  const may = state.lines.find(l => packLineOpen(l) > 0);
  if (may)
    return refuse(
      state,
      `${count(packLineOpen(may), 'piece')} of ${may.product.name} may go along.`,
      'Scan it, or scan WITHOUT to leave it out.',
    );
  const why = notYet(state);
  if (why) return refuse(state, why.says, why.next);
  const { no } = parcelAtHand(state);
  return {
    state: { ...change(state, { closed: true }), history: [], at: null },
    answer: {
      kind: 'set',
      tone: 'complete',
      says: state.parcels.length > 1 ? `Parcel ${no} closed: the order is packed.` : 'Parcel closed.',
      next: state.choices.checkOnly ? 'Scan the next slip or tote.' : 'Choose a service for its label.',
    },
    effects: [{ type: 'close', parcel: no, last: true }],
  };
}

/** Closes the parcel at hand and opens the next one. */
export function nextBox(state: PackState): PackStep {
  if (packDone(state)) return refuse(state, 'Everything is in: another box is not needed.', packHint(state));
  if (unitsAtHand(state) === 0) return refuse(state, 'Nothing is in this parcel yet.', packHint(state));
  if (state.lines.some(l => l.kitParts.some(k => k.scanned > 0)))
    return refuse(state, 'A kit is begun by its parts. Finish it, or undo.', packHint(state));
  const why = notYet(state);
  if (why) return refuse(state, why.says, why.next);
  const { no } = parcelAtHand(state);
  const parcel = newParcel(state.parcels.length + 1, state.proposed);
  const next: PackState = {
    ...change(state, { closed: true }),
    history: [],
  };
  const opened = { ...next, parcels: [...next.parcels, parcel] };
  return {
    state: opened,
    answer: {
      kind: 'set',
      tone: 'row',
      says: `Parcel ${no} closed. Parcel ${parcel.no} is open.`,
      next: packHint(opened),
    },
    effects: [
      { type: 'close', parcel: no, last: false },
      { type: 'next parcel', parcel: parcel.no },
    ],
  };
}
