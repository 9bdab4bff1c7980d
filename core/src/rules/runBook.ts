import { parseAmount } from '../money/money.js';
import { rankOffers } from '../rating/offers.js';
import { type Action, actionSpec, DECIDED, type DecidedField, type Moment } from './actions.js';
import { type NumberedRule, type RuleBook, rulesOf, wantsPrices } from './book.js';
import { type Candidates, candidatesOf } from './candidates.js';
import { compile, emptyRow, type FactRow, factRow, folded, lineRow, placeOf, type Test } from './compile.js';
import { type Condition, comparisonsOf } from './condition.js';
import type { Field, LineFacts, OrderFacts } from './fields.js';

/** A service at the price that is known of it for the order as it stands: "carrier service" or "carrier service account", house money. */
export interface RuledOffer {
  service: string;
  minor: number;
  /** ISO day. */
  arrives: string;
}

/** What a template of parcels stands for. */
export interface RuledTemplate {
  service: string;
  box: string | null;
  signature: boolean;
  /** `true` declares what is in it; minor units of the house's currency; null declares nothing. */
  declare: number | true | null;
}

/** What a book is run with beside the facts: all of it is stored with the outcome, so that it can be computed again. */
export interface RunGround {
  facts: OrderFacts;
  lines: readonly LineFacts[];
  /** Null where prices are not known yet: rules that want them are passed over. */
  offers: readonly RuledOffer[] | null;
  promised: string | null;
}

export type DecidedValue = string | number | boolean;

/** What was decided of a field, by which rule, over which others; the last of those comes last. */
export interface DecidedBy {
  value: DecidedValue;
  by: string;
  over: readonly string[];
}

/** Something that a rule added or wants done. `lines` are the places of the lines that it is about. */
export interface Done {
  by: string;
  action: Action;
  lines?: readonly number[];
}

/** What came of a book for one order. */
export interface Ruled {
  fields: Partial<Record<DecidedField, DecidedBy>>;
  added: readonly Done[];
  deeds: readonly Done[];
  /** The rules that acted, from top to bottom. */
  acted: readonly string[];
  /** The rule that stopped the rest of the book. */
  stoppedBy: string | null;
  /** Rules that were passed over, since no price is known. */
  waiting: readonly string[];
}

/** What a rule decides of a field, prepared as far as it is known beforehand; words in lower case for the rows that look at them. */
interface Decision {
  /** The field's place among those that are decided. */
  at: number;
  value: DecidedValue;
  folded: string;
  carrier: string;
}

interface CompiledAction {
  action: Action;
  kind: 'decides' | 'adds' | 'deed' | 'divides';
  /** Null where it depends on prices. */
  decisions: readonly Decision[] | null;
  lines: Test | null;
}

interface CompiledRule {
  id: string;
  when: Test;
  priced: boolean;
  does: readonly CompiledAction[];
  /** All that it does, where it only decides what is known beforehand. */
  decides: readonly Decision[] | null;
  stop: boolean;
}

/** A book that is quick to run at one moment. */
export interface CompiledBook {
  rules: readonly CompiledRule[];
  currency: string;
  templates: ReadonlyMap<string, RuledTemplate>;
  /** The fields that its rules look at, or go on from. */
  reads: readonly Field[];
  /** Where those stand in a row of facts. */
  places: readonly number[];
  /** Which rules may act on an order. */
  candidates: Candidates;
  room: Room;
}

/**
 * Room for one order while it is run: its facts as rows leave them, which rules acted, and for each field its value, the place of the
 * rule that decided it (-1 for none), and the places of those over which it did. It is used again for the next order, so that nothing
 * grows while rules act; what comes out is made of it at the end.
 */
interface Room {
  row: FactRow;
  acted: Int32Array;
  values: DecidedValue[];
  by: Int32Array;
  over: readonly Int32Array[];
  overs: Int32Array;
}

/** What rows change, and what margins follow from. */
const FOLLOWED: readonly Field[] = ['tags', 'parcels', 'shippingPaid'];

/** Prepares the rules of a moment that run. `button` is the code of the button pressed; `templates` are known by their names. */
export function compileBook(
  book: RuleBook,
  at: Moment,
  currency: string,
  templates: ReadonlyMap<string, RuledTemplate> = new Map(),
  button: string | null = null,
): CompiledBook {
  const mine = (r: NumberedRule) =>
    r.runs && r.at === at && (at !== 'button' || folded(r.button?.code ?? '') === folded(button ?? ''));
  const numbered = rulesOf(book).filter(mine);
  const rules = numbered.map((r): CompiledRule => {
    const does = r.do.map(action => compileAction(action, currency, templates));
    const known = does.every(d => d.kind === 'decides' && d.decisions);
    return {
      id: r.id,
      when: compile(r.when, currency),
      priced: wantsPrices(r),
      does,
      decides: known ? does.flatMap(d => d.decisions!) : null,
      stop: r.stop,
    };
  });
  const asked = numbered.flatMap(r => comparisonsOf(r.when).map(c => c.field as Field));
  const reads = [...new Set([...asked, ...FOLLOWED])];
  // What waits for prices is named whatever else it asks.
  const candidates = candidatesOf(
    numbered.map(r => (wantsPrices(r) ? null : r.when)),
    currency,
  );
  return {
    rules,
    currency,
    templates,
    reads,
    places: reads.map(placeOf),
    candidates,
    room: roomFor(rules.length),
  };
}

const roomFor = (rules: number): Room => ({
  row: emptyRow(),
  acted: new Int32Array(rules),
  values: DECIDED.map(() => ''),
  by: new Int32Array(DECIDED.length),
  over: DECIDED.map(() => new Int32Array(rules)),
  overs: new Int32Array(DECIDED.length),
});

function compileAction(
  action: Action,
  currency: string,
  templates: CompiledBook['templates'],
): CompiledAction {
  const spec = actionSpec(action.do);
  const lines = spec.given === 'lines' ? compile(action.with as Condition, currency, 'line') : null;
  const decisions = action.do === 'cheapest' ? null : decisionsOf(action, currency, templates);
  return { action, kind: lines ? 'divides' : spec.kind, decisions, lines };
}

/** The run under way: facts as earlier rows left them, and what came of it so far. Rules are told by their places. */
interface Run {
  rules: CompiledBook['rules'];
  room: Room;
  row: FactRow;
  ground: RunGround;
  added: Done[];
  deeds: Done[];
  acted: number;
  waiting: string[];
}

const [TAGS, PARCELS, BOX, CARRIER, SERVICE, PRICE, MARGIN, IN_TIME, PAID] = (
  ['tags', 'parcels', 'box', 'carrier', 'service', 'price', 'margin', 'inTime', 'shippingPaid'] as const
).map(placeOf) as [number, number, number, number, number, number, number, number, number];

/**
 * Runs a book for one order, from top to bottom: a row sees what earlier rows set, the later wins field by field, a row that stops ends it.
 * It looks at nothing but what it is given, so that the same order in the same book gives the same outcome.
 */
export function runBook(book: CompiledBook, ground: RunGround): Ruled {
  const { rules, room } = book;
  const row = factRow(ground.facts, book.reads, book.places, room.row);
  room.by.fill(-1);
  room.overs.fill(0);
  const run: Run = { rules, room, row, ground, added: [], deeds: [], acted: 0, waiting: [] };
  const stoppedBy = actAll(book, run);
  const { added, deeds, waiting } = run;
  return {
    fields: fieldsOf(run),
    added,
    deeds,
    acted: idsOf(run, room.acted, run.acted),
    stoppedBy,
    waiting,
  };
}

/** Lets those rules act that may, from top to bottom; gives the one that stopped the rest. */
function actAll({ rules, candidates }: CompiledBook, run: Run): string | null {
  const { may, sure } = candidates.of(run.row);
  for (let word = 0; word < may.length; word++)
    for (let bits = may[word]!; bits !== 0; bits &= bits - 1) {
      const at = word * 32 + (31 - Math.clz32(bits & -bits));
      const rule = rules[at]!;
      if (rule.priced && run.ground.offers === null) {
        run.waiting.push(rule.id);
        continue;
      }
      if (!(sure[word]! & bits & -bits) && !rule.when(run.row)) continue;
      run.room.acted[run.acted++] = at;
      if (rule.decides) decideAll(run, at, rule.decides);
      else for (const one of rule.does) act(run, at, one);
      if (rule.stop) return rule.id;
    }
  return null;
}

/** The rules that stand at the first so many places of a room. */
function idsOf({ rules }: Run, places: Int32Array, many: number): string[] {
  const ids = new Array<string>(many);
  for (let i = 0; i < many; i++) ids[i] = rules[places[i]!]!.id;
  return ids;
}

function act(run: Run, at: number, { action, kind, decisions, lines }: CompiledAction): void {
  const by = run.rules[at]!.id;
  if (kind === 'decides') {
    decideAll(run, at, decisions ?? cheapest(run.ground, action.with as readonly string[]));
  } else if (kind === 'divides') divide(run, by, action, lines!);
  else if (kind === 'deed') run.deeds.push({ by, action });
  else {
    run.added.push({ by, action });
    if (action.do === 'tag') addTag(run.row, folded(action.with as string));
  }
}

function addTag(row: FactRow, tag: string): void {
  const tags = row[TAGS];
  const all = Array.isArray(tags) ? (tags as readonly string[]) : [];
  if (!all.includes(tag)) row[TAGS] = [...all, tag];
}

/** Lines that meet the condition. No order is made of all lines of another, and the one line of an order has its parcel anyway. */
function divide(run: Run, by: string, action: Action, which: Test): void {
  const { lines } = run.ground;
  const met = lines.flatMap((l, i) => (which(lineRow(l)) ? [i] : []));
  const all = met.length === lines.length;
  if (met.length === 0 || (all && action.do === 'own order')) return;
  if (action.do === 'own parcel') {
    if (lines.length === 1) return;
    const parcels = run.row[PARCELS];
    if (typeof parcels === 'number') run.row[PARCELS] = parcels + met.length - (all ? 1 : 0);
  }
  run.deeds.push({ by, action, lines: met });
}

const [SERVICE_FIELD, BOX_FIELD] = [DECIDED.indexOf('service'), DECIDED.indexOf('box')];

const decision = (field: DecidedField, value: DecidedValue): Decision => {
  const word = typeof value === 'string' ? folded(value) : '';
  return { at: DECIDED.indexOf(field), value, folded: word, carrier: word.split(' ')[0]! };
};

/** What an action decides whatever the prices are; nothing where it names a template that is not there. */
function decisionsOf(action: Action, currency: string, templates: CompiledBook['templates']): Decision[] {
  const given = action.with as string;
  switch (action.do) {
    case 'send by':
      return [decision('service', given)];
    case 'template':
      return templateDecisions(templates.get(given));
    case 'signature':
    case 'no signature':
      return [decision('signature', action.do === 'signature')];
    case 'declare contents':
      return [decision('declare', true)];
    case 'declare': {
      const read = parseAmount(given, currency);
      return read.ok ? [decision('declare', read.value)] : [];
    }
    case 'first':
      return [decision('first', true)];
    default:
      return actionSpec(action.do).sets.map(field => decision(field, given));
  }
}

function templateDecisions(t: RuledTemplate | undefined): Decision[] {
  if (!t) return [];
  return [
    decision('service', t.service),
    ...(t.box === null ? [] : [decision('box', t.box)]),
    ...(t.signature ? [decision('signature', true)] : []),
    ...(t.declare === null ? [] : [decision('declare', t.declare)]),
  ];
}

function cheapest(ground: RunGround, services: readonly string[]): Decision[] {
  const found = cheapestOf(ground, services);
  return found === null ? [] : [decision('service', found)];
}

function decideAll(run: Run, by: number, decisions: readonly Decision[]): void {
  for (let i = 0; i < decisions.length; i++) set(run, decisions[i]!, by);
}

/** What is decided, in the order of the fields. */
function fieldsOf(run: Run): Ruled['fields'] {
  const { by, values, over, overs } = run.room;
  const fields: Ruled['fields'] = {};
  for (let at = 0; at < by.length; at++)
    if (by[at] !== -1)
      fields[DECIDED[at]!] = {
        value: values[at]!,
        by: run.rules[by[at]!]!.id,
        over: idsOf(run, over[at]!, overs[at]!),
      };
  return fields;
}

/** Decides a field, over whoever decided it before, and lets later rows see what follows. */
function set(run: Run, d: Decision, by: number): void {
  const { room } = run;
  const before = room.by[d.at]!;
  if (before !== -1 && before !== by) room.over[d.at]![room.overs[d.at]!++] = before;
  room.by[d.at] = by;
  room.values[d.at] = d.value;
  if (d.at === BOX_FIELD) run.row[BOX] = d.folded;
  else if (d.at === SERVICE_FIELD) followService(run, d);
}

/** What later rows see of a service: its carrier, price, margin, and whether it arrives in time. */
function followService({ row, ground }: Run, { value, folded: service, carrier }: Decision): void {
  row[SERVICE] = service;
  row[CARRIER] = carrier;
  const offer = ground.offers?.find(o => o.service === value);
  const paid = row[PAID];
  row[PRICE] = offer?.minor ?? null;
  row[MARGIN] = offer && typeof paid === 'number' ? paid - offer.minor : null;
  row[IN_TIME] = offer ? ground.promised === null || offer.arrives <= ground.promised : null;
}

/** The cheapest of some services that arrives by the promised day; the earliest when none does. */
function cheapestOf({ offers, promised }: RunGround, services: readonly string[]): string | null {
  const asked = (offers ?? []).filter(o => services.includes(ANY_SERVICE) || services.includes(o.service));
  const ranked = rankOffers(
    asked.map(o => ({ carrier: '', service: o.service, minor: o.minor, arrives: o.arrives })),
    promised,
  );
  return ranked[0]?.service ?? null;
}

/** Stands for all services, where the cheapest of some is meant. */
export const ANY_SERVICE = '*';

/** True when all that a rule does is about some lines: where none is met, it does nothing. */
export const onlyDivides = (rule: Pick<NumberedRule, 'do' | 'stop'>): boolean =>
  !rule.stop && rule.do.every(a => actionSpec(a.do).given === 'lines');

/** Whether a rule that acted has done something. */
export const did = (rule: Pick<NumberedRule, 'id' | 'do' | 'stop'>, ruled: Ruled): boolean =>
  ruled.acted.includes(rule.id) && (!onlyDivides(rule) || ruled.deeds.some(d => d.by === rule.id));

/** Outcomes of several moments put together: what a later moment decided counts. */
export function laterWins(outcomes: readonly Ruled[]): Ruled['fields'] {
  const fields: Ruled['fields'] = {};
  for (const outcome of outcomes)
    for (const field of DECIDED) {
      const later = outcome.fields[field];
      const before = fields[field];
      if (later)
        fields[field] = before ? { ...later, over: [...before.over, before.by, ...later.over] } : later;
    }
  return fields;
}
