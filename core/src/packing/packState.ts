import type { ScanProduct } from '../catalog/scanProduct.js';
import type { Scan, Step } from '../scans/scan.js';
import type { Size } from '../units/units.js';
import type { Piece } from './boxes.js';

/** One part of a kit that may be scanned instead of the kit itself: how many of it one kit holds, and how many are in towards the next kit. */
export interface KitPart {
  product: ScanProduct;
  perKit: number;
  scanned: number;
}

/** What the bench asks at each unit of a product, by the product's facts. */
export interface UnitWants {
  /** Read and confirmed once, at the first unit. */
  warning?: string;
  /** The form of its serial numbers: 9 stands for a digit, A for a letter, any other character for itself; empty takes any text. */
  serial?: string;
  /** A lot: one of these when they are known from picking, else any text. */
  lot?: string[];
  expiry?: true;
  /** A question that is answered by typing. */
  question?: string;
}

/** How a product lies in a box; `size` is null while it is not known. */
export type BenchPiece = Omit<Piece, 'id' | 'quantity' | 'size'> & { size: Size | null };

/** One thing to pack. A kit line carries its parts; the lines of a bundle carry its name and, when it has one, its own code. */
export interface PackLine {
  id: string;
  product: ScanProduct;
  wanted: number;
  packed: number;
  kitParts: KitPart[];
  bundle: { id: string; name: string; codes: string[]; each: number } | null;
  /** Null in sessions from before sizes were told. */
  piece: BenchPiece | null;
  wants: UnitWants;
  /** The line that has a parcel of its own; nothing else goes into that. */
  apart?: string;
  /** It may be left out. */
  optional: boolean;
  /** Units that were left out. */
  leftOut: number;
}

/** A kind of box the bench may take; `inner` is null in sessions from before it was told. */
export interface BenchBox {
  code: string;
  name: string;
  tareMg: number;
  limitMg: number;
  inner: Size | null;
  kind: 'box' | 'mailer';
}

/** One parcel of the order: what of each line is in it, by the line's id. */
export interface PackParcel {
  no: number;
  boxCode: string | null;
  weightMg: number | null;
  closed: boolean;
  /** Photos that were taken of it while it was open. */
  photos: number;
  holds: Record<string, number>;
}

/** A note for the packer that must be confirmed before the first piece: by a scan or a key, or by typing a word. */
export interface PackNote {
  text: string;
  word: string | null;
  confirmed: boolean;
}

/** What was told of one unit, or of the units of one scan. */
export interface Captured {
  n: number;
  line: string;
  parcel: number;
  serial?: string;
  lot?: string;
  expiry?: string;
  answer?: string;
}

/** The facts of a unit that can be told; in the order in which they are asked. */
export const FACTS = ['serial', 'lot', 'expiry', 'answer'] as const;
export type UnitFact = (typeof FACTS)[number];

/** What must be answered before anything else is taken. */
export type Asking =
  | { about: 'unit'; moves: PackMove[]; told: Partial<Record<UnitFact | 'warning', string>> }
  | { about: 'weight'; mg: number; says: string }
  | { about: 'apart'; moves: PackMove[]; told: Partial<Record<UnitFact, string>>; says: string };

/** Units that one scan moved. `part`: of a kit; `captured`: the number of what was told of them. */
export interface PackMove {
  line: number;
  units: number;
  part?: number;
  captured?: number;
  leftOut?: boolean;
}

/** What the house and the bench choose. */
export interface PackChoices {
  /** Checked only: a parcel closes without box, weight and label. */
  checkOnly: boolean;
  /** A photo of the open box is wanted before it closes. */
  photo: boolean;
  /** How far a weight may be off, in milligrams and in millionths of what is expected; the larger counts. */
  toleranceMg: number;
  tolerancePpm: number;
  /** Room around what is fragile, in tenths of a millimetre. */
  padding: number;
}

/** State of packing one order, into one parcel after another. */
export interface PackState {
  kind: 'pack';
  orderNo: string;
  lines: PackLine[];
  boxes: BenchBox[];
  /** Those that are closed, and the one at hand. */
  parcels: PackParcel[];
  /** The boxes that were proposed, one for each parcel. */
  proposed: string[];
  /** Where somebody planned what lies in which parcel: units of each line by its id, a parcel after the other. */
  planned?: Record<string, number>[];
  notes: PackNote[];
  asking: Asking | null;
  captured: Captured[];
  choices: PackChoices;
  /** The line that was scanned last. */
  at: number | null;
  /** Moves into the parcel at hand. */
  history: PackMove[][];
}

/** What the ledger must do. Units of a line into a parcel (negative: out again), units left out, a parcel sealed, all of them sealed. */
export type PackEffect =
  | { type: 'pack'; parcel: number; lineId: string; units: number }
  | { type: 'capture'; captured: Captured; takenBack: boolean }
  | { type: 'leave out'; lineId: string; units: number }
  | { type: 'next parcel'; parcel: number }
  | { type: 'close'; parcel: number; last: boolean };

/** What the house says into the session: the order was changed, or a closed parcel was taken open again. */
export type PackNews =
  | { kind: 'lines'; lines: PackLine[]; says: string[]; proposed?: string[] }
  | { kind: 'reopened'; parcel: number };

export type PackScan = Scan & { news?: PackNews };
export type PackStep = Step<PackState, PackEffect>;

/** What counts while nobody has chosen: 30 grams, or 3 % of what is expected. */
export const NO_CHOICES: PackChoices = {
  checkOnly: false,
  photo: false,
  toleranceMg: 30_000,
  tolerancePpm: 30_000,
  padding: 0,
};

/** What a session is opened with; what is not given is empty. */
export type Opening = Pick<PackState, 'orderNo' | 'lines' | 'boxes'> &
  Partial<Pick<PackState, 'proposed' | 'planned' | 'choices'>> & { notes?: Omit<PackNote, 'confirmed'>[] };

/** Opens an order for packing. */
export function openPack({
  orderNo,
  lines,
  boxes,
  proposed = [],
  planned,
  choices = NO_CHOICES,
  notes = [],
}: Opening): PackState {
  return {
    kind: 'pack',
    orderNo,
    lines,
    boxes,
    parcels: [newParcel(1, proposed)],
    proposed,
    ...(planned && { planned }),
    notes: notes.map(n => ({ ...n, confirmed: false })),
    asking: null,
    captured: [],
    choices,
    at: null,
    history: [],
  };
}

/** The next parcel, in the box that was proposed for it. */
export const newParcel = (no: number, proposed: readonly string[]): PackParcel => ({
  no,
  boxCode: proposed[no - 1] ?? null,
  weightMg: null,
  closed: false,
  photos: 0,
  holds: {},
});

/** The parcel that is open; the last one when none is. */
export const parcelAtHand = (s: PackState): PackParcel => s.parcels.find(p => !p.closed) ?? s.parcels.at(-1)!;

/** True when something is in, or another box than the one proposed was taken. */
export const packBegun = (s: PackState): boolean =>
  s.parcels.length > 1 ||
  s.parcels[0]!.boxCode !== (s.proposed[0] ?? null) ||
  s.lines.some(l => l.packed > 0 || l.leftOut > 0 || l.kitParts.some(k => k.scanned > 0));

/** True when all parcels are closed. */
export const packClosed = (s: PackState): boolean => s.parcels.every(p => p.closed);

/** Units of a line that are still missing; less than none when the order wants fewer than are in. */
export const packLineOpen = (l: PackLine): number => l.wanted - l.packed - l.leftOut;

/** True when every wanted unit is in or was left out. */
export const packDone = (s: PackState): boolean => s.lines.every(l => packLineOpen(l) === 0);

/** Units that must still go in; what may be left out does not count. */
export const packOpen = (s: PackState): number =>
  s.lines.reduce((n, l) => n + (l.optional ? 0 : Math.max(0, packLineOpen(l))), 0);

/** Units that are in the parcel at hand. */
export const unitsAtHand = (s: PackState): number =>
  Object.values(parcelAtHand(s).holds).reduce((n, units) => n + units, 0);

/** Units of a line that the plan wants in the parcel at hand and that are not in yet; null where nobody planned. */
export function plannedOpen(s: PackState, lineId: string): number | null {
  if (!s.planned) return null;
  const { no, holds } = parcelAtHand(s);
  return (s.planned[no - 1]?.[lineId] ?? 0) - (holds[lineId] ?? 0);
}

/** True when all that was planned for the parcel at hand is in, and more is to pack. */
export const asPlanned = (s: PackState): boolean =>
  s.planned !== undefined &&
  unitsAtHand(s) > 0 &&
  s.lines.every(l => plannedOpen(s, l.id)! <= 0) &&
  packOpen(s) > 0;

/** Notes that nobody has confirmed yet. */
export const openNotes = (s: PackState): PackNote[] => s.notes.filter(n => !n.confirmed);

/** The line to show largest: the one scanned last while it is open, else the first that is, those that may be left out at the end. */
export function lineAtHand(s: PackState): number {
  const at = s.at === null ? undefined : s.lines[s.at];
  const here = (l: PackLine) => packLineOpen(l) > 0 && plannedOpen(s, l.id)! > 0;
  if (at && packLineOpen(at) !== 0 && (!s.planned || here(at) || packLineOpen(at) < 0)) return s.at!;
  const planned = s.planned ? s.lines.findIndex(here) : -1;
  if (planned !== -1) return planned;
  const needed = s.lines.findIndex(l => packLineOpen(l) !== 0 && !l.optional);
  return needed !== -1 ? needed : s.lines.findIndex(l => packLineOpen(l) !== 0);
}

/**
 * What the parcel at hand should weigh, in milligrams: what is in it, and its box. Null when a weight is not known, or while a part of a
 * kit is in.
 */
export function expectedMg(s: PackState): number | null {
  const parcel = parcelAtHand(s);
  let sum = s.boxes.find(b => b.code === parcel.boxCode)?.tareMg ?? 0;
  for (const l of s.lines) {
    const units = parcel.holds[l.id] ?? 0;
    if (units === 0) continue;
    if (!l.piece?.weightMg) return null;
    sum += units * l.piece.weightMg;
  }
  return sum;
}

/** What is said where a photo is wanted before a parcel closes. */
export const WANTS_PHOTO = {
  says: 'A photo of the open box is wanted.',
  next: 'Scan PHOTO, or press Alt 9, before it is closed.',
};

/** What comes next, in words. */
export function packHint(s: PackState): string {
  if (packClosed(s)) return 'Scan the next slip or tote.';
  const note = openNotes(s)[0];
  if (note) return readFirst(note);
  if (s.asking) return askingHint(s, s.asking);
  if (asPlanned(s)) return boxAsPlanned(s);
  const at = lineAtHand(s);
  if (at !== -1) {
    const line = s.lines[at]!;
    const here = plannedOpen(s, line.id);
    if (here !== null && here > 0) return `${here} × ${line.product.name} into this box.`;
    if (packLineOpen(line) < 0) return `Take ${-packLineOpen(line)} × ${line.product.name} out and scan it.`;
    const then = s.lines.find((l, i) => i !== at && packLineOpen(l) > 0);
    const may = line.optional ? ' It may be left out: scan WITHOUT.' : '';
    return `${packLineOpen(line)} × ${line.product.name}${then ? `, then ${then.product.name}` : ''}.${may}`;
  }
  const { boxCode, weightMg, photos } = parcelAtHand(s);
  if (s.choices.photo && photos === 0) return WANTS_PHOTO.next;
  if (s.choices.checkOnly) return 'Close it (Alt 2): it is only checked.';
  if (!boxCode) return 'Scan a box.';
  if (weightMg === null) return 'Put it on the scale, or type the weight such as 1.2 kg.';
  return 'Scan LABEL (Alt 2) to close it.';
}

function boxAsPlanned(s: PackState): string {
  const { boxCode, weightMg } = parcelAtHand(s);
  if (!boxCode) return 'This box is as planned. Scan which box it is.';
  return weightMg === null
    ? 'This box is as planned. Weigh it, then scan NEXT BOX (Alt 5).'
    : 'This box is as planned. Scan NEXT BOX (Alt 5).';
}

/** How a note is confirmed. */
export const readFirst = (note: PackNote): string =>
  note.word ? `Then type the word “${note.word}”.` : 'Then scan YES, or press Alt 4.';

/** The question itself. */
export function questionOf(s: PackState, asking: Asking): string {
  if (asking.about !== 'unit') return asking.says;
  const { product, wants } = s.lines[asking.moves[0]!.line]!;
  const fact = factAsked(wants, asking.told);
  if (fact === 'warning') return `Read this: ${wants.warning}`;
  if (fact === 'serial') return `The serial number of ${product.name}?`;
  if (fact === 'lot') return `Which lot of ${product.name}?`;
  if (fact === 'expiry') return `When does ${product.name} expire?`;
  return wants.question ?? '';
}

/** What a question waits for. */
export function askingHint(s: PackState, asking: Asking): string {
  if (asking.about === 'weight') return 'Weigh it again, look what is in it, or scan YES when it is right.';
  if (asking.about === 'apart')
    return 'Scan NEXT BOX (Alt 5) to close this parcel first, or YES (Alt 4) to put it in here all the same.';
  const line = s.lines[asking.moves[0]!.line]!;
  const fact = factAsked(line.wants, asking.told);
  const name = line.product.name;
  if (fact === 'warning') return 'Then scan YES, or press Alt 4.';
  if (fact === 'serial')
    return `Scan the serial number of ${name}${line.wants.serial ? `, such as ${line.wants.serial}` : ''}.`;
  if (fact === 'lot')
    return line.wants.lot!.length > 0
      ? `Scan its lot: ${line.wants.lot!.join(' or ')}.`
      : `Scan or type the lot of ${name}.`;
  if (fact === 'expiry') return 'Type its expiry, such as 2027-05-31.';
  return `${line.wants.question} Type the answer.`;
}

/** The fact that is asked next of a unit; null when all are told. */
export function factAsked(
  wants: UnitWants,
  told: Partial<Record<UnitFact | 'warning', string>>,
): UnitFact | 'warning' | null {
  if (wants.warning && !told.warning) return 'warning';
  if (wants.serial !== undefined && !told.serial) return 'serial';
  if (wants.lot && !told.lot) return 'lot';
  if (wants.expiry && !told.expiry) return 'expiry';
  return wants.question && !told.answer ? 'answer' : null;
}
