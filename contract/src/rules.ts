import {
  ACTION_NAMES,
  ACTIONS,
  type ActionName,
  type Condition,
  DECIDED,
  FIELD_NAMES,
  LINE_FIELDS,
  MOMENTS,
  OPS,
  type Op,
  type Rule,
  type RuleBook,
} from '@auk/core';
import { z } from 'zod';
import { Id } from './common.js';
import { can, type Person } from './people.js';
import type { Right } from './rights.js';
import { RuleButton } from './ruleButtons.js';

/** The forms of the rule book. `docs/rules.md` describes them; the JSON schema that is published is made from `RuleBookFile`. */
const word = z.string().min(1).max(200);
const OP_NAMES = Object.values(OPS).flat() as [Op, ...Op[]];

const Comparison = z.strictObject({
  field: z.enum([...FIELD_NAMES, ...(Object.keys(LINE_FIELDS) as (keyof typeof LINE_FIELDS)[])]),
  is: z.enum(OP_NAMES),
  value: z.union([z.string().max(60), z.number(), z.array(word).max(200)]).optional(),
});

const parts = (): z.ZodArray<z.ZodType<Condition>> => z.array(z.lazy(() => RuleCondition)).max(100);
export const RuleCondition: z.ZodType<Condition> = z
  .union([
    z.strictObject({ all: parts() }),
    z.strictObject({ any: parts() }),
    z.strictObject({ none: parts() }),
    Comparison,
  ])
  .meta({ id: 'condition' }) as z.ZodType<Condition>;

export const RuleAction = z.strictObject({
  do: z.enum(ACTION_NAMES as [(typeof ACTION_NAMES)[number], ...typeof ACTION_NAMES]),
  with: z.union([z.string().max(500), z.array(word).min(1).max(50), RuleCondition]).optional(),
});

/** Actions that Auk carries out. The language knows more of them; until those are built, a book with one cannot be saved. */
export const CARRIED_OUT: ReadonlySet<ActionName> = new Set<ActionName>([
  'send by',
  'cheapest',
  'template',
  'box',
  'signature',
  'no signature',
  'declare contents',
  'declare',
  'first',
  'park',
  'tag',
  'note packer',
  'note slip',
  'note staff',
  'buy',
  'own order',
  'own parcel',
  'supplier',
  'center',
  'mail',
  'slip',
  'papers',
]);

const RuleId = z.string().regex(/^[a-z0-9-]{1,36}$/, 'is made of small letters, digits and hyphens');

/** Whoever presses a button must have one of these rights for each thing that it does. */
const DESK: readonly Right[] = ['labels.choose', 'pack'];
const ACTION_RIGHTS: Partial<Record<ActionName, readonly Right[]>> = {
  'send by': DESK,
  cheapest: DESK,
  template: DESK,
  box: DESK,
  signature: DESK,
  'no signature': DESK,
  'declare contents': DESK,
  declare: DESK,
  papers: DESK,
  slip: DESK,
  'own parcel': DESK,
  first: ['orders.change'],
  park: ['orders.change'],
  'own order': ['orders.change'],
  supplier: ['purchases.change', 'orders.change'],
  center: ['purchases.change', 'orders.change'],
  mail: ['buyers.write'],
};

/** Why a person may not press a button: what it does that they have no right to; null when they may. */
export function mayNotPress(me: Pick<Person, 'rights'>, rule: Pick<Rule, 'do'>): string | null {
  if (!can(me, 'rules.press')) return 'You may not press buttons.';
  const action = rule.do.find(a => !(ACTION_RIGHTS[a.do]?.some(r => can(me, r)) ?? true));
  return action
    ? `You may not ${ACTIONS[action.do].words.replace(/( of| to (each line|lines) where|:)$/, '')}.`
    : null;
}

export const RuleIn = z.strictObject({
  id: RuleId,
  name: z.string().trim().min(1, 'is wanted').max(80),
  note: z.string().trim().max(500).default(''),
  on: z.boolean().default(true),
  at: z.enum(MOMENTS),
  button: RuleButton.optional(),
  when: RuleCondition.default({ all: [] }),
  do: z.array(RuleAction).max(30),
  stop: z.boolean().default(false),
});

export const RuleGroupIn = z.strictObject({
  id: RuleId,
  name: z.string().trim().min(1, 'is wanted').max(80),
  on: z.boolean().default(true),
  rules: z.array(RuleIn).max(1_000),
});

/** Most rules and groups of a book. More than a few hundred are slow to look through, never refused before this. */
const MOST_ROWS = 2_000;
export const RuleBookIn = z.strictObject({ rows: z.array(z.union([RuleGroupIn, RuleIn])).max(MOST_ROWS) });

/** A book as a file: with which form it is written, and the book. */
export const RuleBookFile = z.strictObject({ form: z.literal('rule book 1'), ...RuleBookIn.shape });
export type RuleBookFile = z.infer<typeof RuleBookFile>;

/** A book that is saved is made from the version that was looked at: when another was saved meanwhile, what changed is told. */
export const SaveBook = z.object({
  base: z.number().int().min(0),
  note: z.string().trim().max(200).default(''),
  book: RuleBookIn,
});

export const BookVersionView = z.object({
  no: z.number(),
  note: z.string(),
  by: z.string().nullable(),
  at: z.string(),
  rules: z.number(),
});
export type BookVersionView = z.infer<typeof BookVersionView>;

const Book = z.custom<RuleBook>(v => typeof v === 'object' && v !== null && 'rows' in v);

/** What can be proved of a rule, and what to read about it. */
export const RuleProof = z.object({
  rule: z.string(),
  is: z.enum(['acts', 'contradicts itself', 'never acts', 'always overridden', 'unknown']),
  by: z.array(z.string()),
  says: z.string(),
});
export type RuleProof = z.infer<typeof RuleProof>;

/** Something of another part of Auk that a rule names, and that is not there any more. */
export const MissingName = z.object({ rule: z.string(), says: z.string(), cure: z.string() });
export type MissingName = z.infer<typeof MissingName>;

export const RuleBookView = z.object({
  no: z.number(),
  book: Book,
  currency: z.string(),
  proofs: z.array(RuleProof),
  missing: z.array(MissingName),
  /** Orders on which each rule acted last, by its id. */
  acted: z.record(z.string(), z.number()),
});
export type RuleBookView = z.infer<typeof RuleBookView>;

/** What rules may name: services, templates, boxes, channels, products, tags that are in use. */
export const RuleWords = z.object({
  services: z.array(z.object({ code: z.string(), name: z.string() })),
  templates: z.array(z.string()),
  /** Templates of slips, and of papers that go abroad. */
  slips: z.array(z.string()),
  papers: z.array(z.string()),
  /** Mails that rules may send. */
  mails: z.array(z.string()),
  boxes: z.array(z.object({ code: z.string(), name: z.string() })),
  channels: z.array(z.string()),
  products: z.array(z.object({ sku: z.string(), name: z.string() })),
  categories: z.array(z.string()),
  properties: z.array(z.string()),
  tags: z.array(z.string()),
});
export type RuleWords = z.infer<typeof RuleWords>;

const Difference = z.object({
  id: z.string(),
  name: z.string(),
  how: z.enum(['new', 'gone', 'changed', 'moved', 'on', 'off']),
  before: z.string().nullable(),
  after: z.string().nullable(),
});
export const BookDifferences = z.object({
  from: z.number(),
  to: z.number(),
  differences: z.array(Difference),
});
export type BookDifferences = z.infer<typeof BookDifferences>;

/** Which orders a book is tried on: those chosen, all that are open, or the last so many. */
export const DryRunAsk = z.object({
  id: Id,
  book: RuleBookIn,
  /** Only what this rule does. */
  rule: z.string().max(36).nullable().default(null),
  on: z.union([
    z.object({ ids: z.array(Id).min(1).max(500) }),
    z.object({ open: z.literal(true) }),
    z.object({ last: z.number().int().min(1).max(10_000) }),
  ]),
});
export type DryRunAsk = z.infer<typeof DryRunAsk>;

const DryField = z.object({
  field: z.enum(DECIDED),
  words: z.string(),
  before: z.string().nullable(),
  after: z.string().nullable(),
  rule: z.string().nullable(),
});

/** A dry run: how far it is, and when it is done what would be otherwise. Money in the house's currency. */
export const DryRunView = z.object({
  id: z.string(),
  state: z.enum(['waiting', 'running', 'done', 'stopped', 'failed']),
  done: z.number(),
  total: z.number(),
  says: z.string(),
  result: z
    .object({
      orders: z.number(),
      changed: z.number(),
      costBeforeMinor: z.number(),
      costAfterMinor: z.number(),
      /** Orders of which no price is known before or after; they are in neither sum. */
      unpriced: z.number(),
      currency: z.string(),
      rules: z.array(z.object({ rule: z.string(), acted: z.number(), decided: z.number() })),
      rows: z.array(
        z.object({
          id: z.string(),
          number: z.string(),
          buyer: z.string(),
          fields: z.array(DryField),
          more: z.array(z.string()),
          less: z.array(z.string()),
          costBeforeMinor: z.number().nullable(),
          costAfterMinor: z.number().nullable(),
        }),
      ),
    })
    .nullable(),
});
export type DryRunView = z.infer<typeof DryRunView>;

/** Why an order has its service, box and the rest: what counts of each field, and what the book of now would do. */
export const OrderWhyView = z.object({
  fields: z.array(
    z.object({
      field: z.enum(DECIDED),
      words: z.string(),
      value: z.string(),
      from: z.enum(['house', 'product', 'rule', 'hand']),
      by: z.string(),
      over: z.array(z.object({ value: z.string(), by: z.string() })),
    }),
  ),
  runs: z.array(
    z.object({
      moment: z.enum(MOMENTS),
      book: z.number(),
      at: z.string(),
      acted: z.array(
        z.object({ rule: z.string(), no: z.number(), name: z.string(), does: z.array(z.string()) }),
      ),
      stoppedBy: z.string().nullable(),
      waiting: z.array(z.string()),
    }),
  ),
  /** What a book saved since then would do otherwise; empty when nothing. */
  now: z.array(z.string()),
  book: z.number(),
});
export type OrderWhyView = z.infer<typeof OrderWhyView>;

/** Orders on which the book is run again, each with its answer. */
export const RerunAsk = z.object({ ids: z.array(Id).min(1).max(500) });

/** The published form of a book as a file: JSON Schema 2020-12, made from the form that is used. */
export const ruleBookSchema = (): object => ({
  title: 'Rule book',
  ...z.toJSONSchema(RuleBookFile, { io: 'input' }),
});
