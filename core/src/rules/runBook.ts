import { parseAmount } from '../money/money.js';
import { rankOffers } from '../rating/offers.js';
import { type Action, actionSpec, DECIDED, type DecidedField, type Moment } from './actions.js';
import { type NumberedRule, type RuleBook, rulesOf, wantsPrices } from './book.js';
import { compile, type FactRow, factRow, folded, lineRow, placeOf, type Test } from './compile.js';
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
  const rules = rulesOf(book)
    .filter(mine)
    .map((r): CompiledRule => {
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
  const asked = rulesOf(book)
    .filter(mine)
    .flatMap(r => comparisonsOf(r.when).map(c => c.field as Field));
  const reads = [...new Set([...asked, ...FOLLOWED])];
  return { rules, currency, templates, reads, places: reads.map(placeOf) };
}

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

/** What was decided of a field so far. */
interface Decided {
  value: DecidedValue;
  by: string;
  over: string[];
}

/** The run under way: facts as earlier rows left them, and what came of it so far. */
interface Run {
  row: FactRow;
  ground: RunGround;
  /** What is decided of each field, by its place. */
  decided: (Decided | undefined)[];
  added: Done[];
  deeds: Done[];
}

const [TAGS, PARCELS, BOX, CARRIER, SERVICE, PRICE, MARGIN, IN_TIME, PAID] = (
  ['tags', 'parcels', 'box', 'carrier', 'service', 'price', 'margin', 'inTime', 'shippingPaid'] as const
).map(placeOf) as [number, number, number, number, number, number, number, number, number];

/**
 * Runs a book for one order, from top to bottom: a row sees what earlier rows set, the later wins field by field, a row that stops ends it.
 * It looks at nothing but what it is given, so that the same order in the same book gives the same outcome.
 */
export function runBook(book: CompiledBook, ground: RunGround): Ruled {
  const row = factRow(ground.facts, book.reads, book.places);
  const run: Run = { row, ground, decided: [], added: [], deeds: [] };
  const acted: string[] = [];
  const waiting: string[] = [];
  let stoppedBy: string | null = null;
  for (const rule of book.rules) {
    if (rule.priced && ground.offers === null) {
      waiting.push(rule.id);
      continue;
    }
    if (!rule.when(run.row)) continue;
    acted.push(rule.id);
    if (rule.decides) decideAll(run, rule.id, rule.decides);
    else for (const one of rule.does) act(run, rule.id, one);
    if (rule.stop) {
      stoppedBy = rule.id;
      break;
    }
  }
  const { added, deeds } = run;
  return { fields: fieldsOf(run.decided), added, deeds, acted, stoppedBy, waiting };
}

function act(run: Run, by: string, { action, kind, decisions, lines }: CompiledAction): void {
  if (kind === 'decides') {
    decideAll(run, by, decisions ?? cheapest(run.ground, action.with as readonly string[]));
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

function decideAll(run: Run, by: string, decisions: readonly Decision[]): void {
  for (let i = 0; i < decisions.length; i++) set(run, decisions[i]!, by);
}

/** What is decided, in the order of the fields. */
function fieldsOf(decided: readonly (Decided | undefined)[]): Ruled['fields'] {
  const fields: Ruled['fields'] = {};
  for (let at = 0; at < decided.length; at++) {
    const d = decided[at];
    if (d) fields[DECIDED[at]!] = d;
  }
  return fields;
}

/** Decides a field, over whoever decided it before, and lets later rows see what follows. */
function set(run: Run, d: Decision, by: string): void {
  const before = run.decided[d.at];
  if (!before) run.decided[d.at] = { value: d.value, by, over: [] };
  else {
    if (before.by !== by) before.over.push(before.by);
    before.value = d.value;
    before.by = by;
  }
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
