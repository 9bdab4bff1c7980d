import { type Parsed, parseScan } from '../barcode/parseScan.js';
import { expiryDay } from '../days/expiryDay.js';
import { type Answer, refuse, type Scan } from '../scans/scan.js';
import { count, quoted } from '../text.js';
import {
  type AtDevice,
  atDevice,
  awaited,
  type InHand,
  type ReceiveEffect,
  type ReceiveLine,
  type ReceiveState,
  type ReceiveStep,
  receiveDone,
} from './receiveState.js';

/**
 * Answers one scan at the dock: a product's code counts its units (a case its pack, a GS1 code its count, lot and expiry), a typed
 * number as many more of the last product, a place puts away what is in hand, ALL takes the rest of the last line, UNDO the last act.
 * Lot and expiry are asked where the product wants them, once a lot. Surplus, strangers and expired lots are refused.
 */
export function receiveScan(state: ReceiveState, scan: Scan): ReceiveStep {
  const parsed = parseScan(scan.text, yearOf(scan));
  if (!parsed.ok) return refuse(state, parsed.problem, hint(state, scan.device));
  const p = parsed.value;
  const at = atDevice(state, scan.device);
  if (p.type === 'command' && p.name === 'UNDO') return undo(state, scan, at);
  if (at.asked) return told(state, scan, at, at.asked, p);
  if (p.type === 'command') return command(state, scan, at, p.name);
  if (isPlace(state, scan)) return put(state, scan, at);
  if (p.type === 'quantity') return several(state, scan, at, p.n);
  return product(state, scan, at, p);
}

/** A place is known by its code: one proposed here, or one that the judge knows. */
const isPlace = (state: ReceiveState, scan: Scan): boolean =>
  scan.known?.kind === 'place' || state.lines.some(l => l.putAway?.code === scan.text.trim().toUpperCase());

const yearOf = (scan: Scan) => Number(scan.at.slice(0, 4));
const lineOf = (state: ReceiveState, id: string) => state.lines.find(l => l.id === id)!;

function hint(state: ReceiveState, device: string): string {
  const at = atDevice(state, device);
  if (at.asked) {
    const line = lineOf(state, at.asked.lineId);
    return at.asked.lot === null && line.lotWanted
      ? `Scan or type the lot of ${line.product.name}.`
      : `Type the expiry of ${line.product.name}, like 2027-03-31.`;
  }
  const held = at.inHand.at(-1);
  if (held) {
    const proposed = lineOf(state, held.lineId).putAway;
    return proposed
      ? `Next piece, or put it away in ${proposed.code} (${proposed.why}).`
      : 'Next piece, or scan the place where you put it.';
  }
  const left = state.lines.reduce((n, l) => n + awaited(l), 0);
  return left === 0
    ? `${state.orderNo} is complete.`
    : `${count(left, 'piece')} of ${state.orderNo} awaited.`;
}

/** The code of a product as a scan gives it, and the units the scan counts for a line. */
function unitsFor(line: ReceiveLine, p: Parsed, scan: Scan): number | null {
  const code = p.type === 'product' || p.type === 'own' ? p.code : scan.text.trim().toUpperCase();
  const known = line.product.codes.find(c => c.code === code);
  const bySku = line.product.sku === code ? 1 : undefined;
  const units = known?.units ?? bySku;
  return units === undefined ? null : units * (p.type === 'product' ? (p.count ?? 1) : 1);
}

function product(state: ReceiveState, scan: Scan, at: AtDevice, p: Parsed): ReceiveStep {
  const mine = state.lines.filter(l => unitsFor(l, p, scan) !== null);
  const line = mine.find(l => awaited(l) > 0) ?? mine[0];
  if (!line) {
    const stranger = scan.known ? `This is ${scan.known.name}` : `Nothing has the code ${quoted(scan.text)}`;
    return refuse(
      state,
      `${stranger}; ${state.orderNo} does not have it.`,
      'Set it aside and tell the lead.',
    );
  }
  const units = unitsFor(line, p, scan)!;
  if (units === 0) return refuse(state, 'That code counts nothing.', hint(state, scan.device));
  const over = surplus(state, line, units);
  if (over) return refuse(state, over, 'Set the surplus aside; the lead decides.');
  const lot = p.type === 'product' ? (p.lot ?? null) : null;
  const expiry = p.type === 'product' ? (p.expiry ?? null) : null;
  return withLot(state, scan, at, { lineId: line.id, units, lot }, expiry, lot === null);
}

function surplus(state: ReceiveState, line: ReceiveLine, units: number): string | null {
  const left = awaited(line);
  if (units <= left) return null;
  const pack = units > 1 ? `That would be ${units}. ` : '';
  return left === 0
    ? `${pack}All ${line.ordered} of ${line.product.name} on ${state.orderNo} are in already: this is surplus.`
    : `${pack}Only ${left} of ${line.product.name} are awaited.`;
}

/** Counts a piece when its lot and expiry are known or not wanted, else asks. With `sticky`, the device's last lot of the line is taken. */
function withLot(
  state: ReceiveState,
  scan: Scan,
  at: AtDevice,
  piece: NonNullable<AtDevice['asked']>,
  expiryTold: string | null,
  sticky: boolean,
): ReceiveStep {
  const line = lineOf(state, piece.lineId);
  const last = sticky ? at.lots[line.id] : undefined;
  const lot = piece.lot ?? last?.lot ?? null;
  const known = line.lots.find(l => l.code === lot);
  if (known?.expiry && expiryTold && known.expiry !== expiryTold)
    return refuse(
      state,
      `Lot ${lot} is known here with the expiry ${known.expiry}, and this code says ${expiryTold}.`,
      'Look at the print; one of the two is another lot.',
    );
  const expiry = expiryTold ?? known?.expiry ?? last?.expiry ?? null;
  if (line.lotWanted && lot === null) return ask(state, scan, at, { ...piece, lot: null });
  if (line.expiryWanted && expiry === null) return ask(state, scan, at, { ...piece, lot });
  if (expiry !== null && expiry <= scan.at.slice(0, 10)) {
    const step = refuse<ReceiveState, ReceiveEffect>(
      state,
      `${lot ? `Lot ${lot}` : 'This piece'} of ${line.product.name} expired on ${expiry}, so it is not taken in.`,
      'Set it aside and tell the supplier.',
    );
    return { ...step, state: withDevice(state, scan.device, { ...at, asked: null }) };
  }
  return counted(state, scan, at, line, { units: piece.units, lot, expiry });
}

function ask(
  state: ReceiveState,
  scan: Scan,
  at: AtDevice,
  piece: NonNullable<AtDevice['asked']>,
): ReceiveStep {
  const line = lineOf(state, piece.lineId);
  const next = withDevice(state, scan.device, { ...at, asked: piece, lastLineId: line.id });
  const what = piece.lot === null && line.lotWanted ? 'Which lot?' : 'When does it expire?';
  return {
    state: next,
    answer: {
      kind: 'asked',
      tone: 'info',
      says: `${line.product.name}: ${what}`,
      next: hint(next, scan.device),
    },
    effects: [],
  };
}

/** The answer to a question for lot or expiry. */
function told(
  state: ReceiveState,
  scan: Scan,
  at: AtDevice,
  asked: NonNullable<AtDevice['asked']>,
  p: Parsed,
): ReceiveStep {
  const line = lineOf(state, asked.lineId);
  const wantsLot = line.lotWanted && asked.lot === null;
  if (p.type === 'command' && p.name === 'SKIP') {
    const next = withDevice(state, scan.device, { ...at, asked: null });
    return {
      state: next,
      answer: { kind: 'moved', tone: 'info', says: 'Not counted.', next: hint(next, scan.device) },
      effects: [],
    };
  }
  if (p.type === 'product' && unitsFor(line, p, scan) !== null && (p.lot || p.expiry))
    return withLot(state, scan, at, { ...asked, lot: p.lot ?? asked.lot }, p.expiry ?? null, false);
  if (p.type === 'command' || state.lines.some(l => unitsFor(l, p, scan) !== null))
    return refuse(
      state,
      `The last piece of ${line.product.name} still waits for its ${wantsLot ? 'lot' : 'expiry'}.`,
      `${hint(state, scan.device)} AUK-SKIP leaves the piece uncounted.`,
    );
  const text = scan.text.trim();
  if (wantsLot) {
    const lot = text.toUpperCase();
    if (lot.length > 20)
      return refuse(
        state,
        `A lot has at most 20 characters; this has ${lot.length}.`,
        hint(state, scan.device),
      );
    return withLot(state, scan, at, { ...asked, lot }, null, false);
  }
  const expiry = expiryDay(text, yearOf(scan));
  if (!expiry)
    return refuse(state, `"${quoted(text, 20)}" is no day.`, 'Type it like 2027-03-31 or 03/2027.');
  return withLot(state, scan, at, asked, expiry, false);
}

function counted(
  state: ReceiveState,
  scan: Scan,
  at: AtDevice,
  line: ReceiveLine,
  what: { units: number; lot: string | null; expiry: string | null },
): ReceiveStep {
  const { units, lot, expiry } = what;
  const after: ReceiveLine = {
    ...line,
    received: line.received + units,
    lots:
      lot === null || line.lots.some(l => l.code === lot) ? line.lots : [...line.lots, { code: lot, expiry }],
  };
  const next = withDevice(
    { ...state, lines: state.lines.map(l => (l.id === line.id ? after : l)) },
    scan.device,
    {
      asked: null,
      lastLineId: line.id,
      lots: { ...at.lots, [line.id]: { lot, expiry } },
      inHand: added(at.inHand, { lineId: line.id, units, lot }),
      history: [...at.history, { type: 'receive', lineId: line.id, units, lot, expiry }],
    },
  );
  const done = receiveDone(next);
  const left = awaited(after);
  const tail = left === 0 ? `all ${after.ordered} are in` : `${after.received} of ${after.ordered}`;
  const answer: Answer = {
    kind: done ? 'complete' : 'counted',
    tone: done || left === 0 ? 'complete' : 'right',
    says: `${units} × ${line.product.name}${lot ? `, lot ${lot}` : ''}: ${tail}.`,
    next: hint(next, scan.device),
  };
  return { state: next, answer, effects: [{ type: 'receive', lineId: line.id, units, lot, expiry }] };
}

function several(state: ReceiveState, scan: Scan, at: AtDevice, n: number): ReceiveStep {
  const line = at.lastLineId === null ? undefined : lineOf(state, at.lastLineId);
  if (!line || !at.inHand.some(h => h.lineId === line.id))
    return refuse(
      state,
      'Scan one piece first, so that it is surely the right product; then type how many more.',
      hint(state, scan.device),
    );
  if (n === 0) return refuse(state, 'Nothing is not a quantity.', hint(state, scan.device));
  const over = surplus(state, line, n);
  if (over) return refuse(state, over, hint(state, scan.device));
  return withLot(state, scan, at, { lineId: line.id, units: n, lot: null }, null, true);
}

function put(state: ReceiveState, scan: Scan, at: AtDevice): ReceiveStep {
  const held = at.inHand.at(-1);
  const place = scan.text.trim().toUpperCase();
  if (!held) return refuse(state, `Nothing is in hand to put away in ${place}.`, hint(state, scan.device));
  const line = lineOf(state, held.lineId);
  const all = at.inHand.filter(h => h.lineId === held.lineId);
  const units = all.reduce((n, h) => n + h.units, 0);
  const next = withDevice(state, scan.device, {
    ...at,
    inHand: at.inHand.filter(h => h.lineId !== held.lineId),
    history: [...at.history, ...all.map(h => ({ type: 'put' as const, ...h, place }))],
  });
  return {
    state: next,
    answer: {
      kind: 'moved',
      tone: 'right',
      says: `${units} × ${line.product.name} put away in ${place}.`,
      next: hint(next, scan.device),
    },
    effects: all.map(h => ({ type: 'put', ...h, place })),
  };
}

function command(state: ReceiveState, scan: Scan, at: AtDevice, name: string): ReceiveStep {
  if (name !== 'ALL')
    return refuse(state, `"${name.toLowerCase()}" does nothing at the dock.`, hint(state, scan.device));
  const line = at.lastLineId === null ? undefined : lineOf(state, at.lastLineId);
  if (!line)
    return refuse(state, 'Scan one piece first; then ALL takes the rest of it.', hint(state, scan.device));
  const left = awaited(line);
  if (left === 0)
    return refuse(state, `All ${line.ordered} of ${line.product.name} are in.`, hint(state, scan.device));
  return several(state, scan, at, left);
}

function undo(state: ReceiveState, scan: Scan, at: AtDevice): ReceiveStep {
  if (at.asked) {
    const next = withDevice(state, scan.device, { ...at, asked: null });
    return undone(next, scan, 'the piece that waited for its lot is not counted', []);
  }
  const last = at.history.at(-1);
  if (!last) return refuse(state, 'There is nothing to undo here.', hint(state, scan.device));
  const line = lineOf(state, last.lineId);
  const history = at.history.slice(0, -1);
  const { lineId, units, lot } = last;
  if (last.type === 'put') {
    const next = withDevice(state, scan.device, {
      ...at,
      history,
      inHand: added(at.inHand, { lineId, units, lot }),
    });
    return undone(next, scan, `${units} × ${line.product.name} taken out of ${last.place} again`, [
      { ...last, units: -units },
    ]);
  }
  const lines = state.lines.map(l => (l.id === lineId ? { ...l, received: l.received - units } : l));
  const next = withDevice({ ...state, lines }, scan.device, {
    ...at,
    history,
    inHand: added(at.inHand, { lineId, units: -units, lot }),
  });
  return undone(next, scan, `${units} × ${line.product.name} not received`, [{ ...last, units: -units }]);
}

function undone(state: ReceiveState, scan: Scan, what: string, effects: ReceiveEffect[]): ReceiveStep {
  return {
    state,
    answer: { kind: 'undone', tone: 'info', says: `Undone: ${what}.`, next: hint(state, scan.device) },
    effects,
  };
}

/** Units in hand by line and lot; the one added last stands last, and what comes to nothing is left out. */
function added(inHand: readonly InHand[], more: InHand): InHand[] {
  const same = (h: InHand) => h.lineId === more.lineId && h.lot === more.lot;
  const units = more.units + inHand.filter(same).reduce((n, h) => n + h.units, 0);
  return [...inHand.filter(h => !same(h)), { ...more, units }].filter(h => h.units > 0);
}

const withDevice = (state: ReceiveState, device: string, at: AtDevice): ReceiveState => ({
  ...state,
  devices: { ...state.devices, [device]: at },
});
