import {
  type Change,
  documentOf,
  documentTotals,
  type OrderDocument,
  type ReceivedOrder,
  toldOver,
} from './document.js';
import { type Conflict, mergeDocuments } from './merge.js';

/** What a channel's news would do to an order that is here: the document after, what it takes, and what a person must decide. */
export interface News {
  /** What the channel says now, which is the base of the next merge. */
  theirs: OrderDocument;
  after: OrderDocument;
  taken: Change[];
  conflicts: Conflict[];
}

/**
 * What the channel's news does to an order: merged field by field from what it said last (`base`; null for orders from before bases
 * were kept). Under way (something of it is on a list or further, whatever its stage says), what touches goods or address is not
 * taken but left to a person.
 */
export function newsOf(
  order: { base: OrderDocument | null; document: OrderDocument; underWay: boolean },
  received: ReceivedOrder,
): News {
  const told = documentOf(received);
  const base = order.base ?? narrowed(order.document, told);
  const theirs = toldOver(base, told, received.silent ?? []);
  const paid = theirs.head.payment === 'paid' || theirs.head.payment === 'part refunded';
  theirs.head.paidMinor = paid ? documentTotals(theirs).total : 0;
  const merged = mergeDocuments(base, order.document, theirs);
  if (!order.underWay)
    return { theirs, after: merged.document, taken: merged.taken, conflicts: merged.conflicts };
  const late = merged.taken.filter(touchesGoods);
  const harmless = merged.taken.filter(c => !touchesGoods(c));
  return {
    theirs,
    after: applied(order.document, harmless),
    taken: harmless,
    conflicts: [
      ...merged.conflicts,
      ...late.map(c => ({ line: c.line, field: c.field, base: c.before, ours: c.before, theirs: c.after })),
    ],
  };
}

/** Whether a change alters what is picked, where it goes or how heavy it is said to be. A telephone number does not. */
export const touchesGoods = (c: Change): boolean =>
  (c.line !== null && (c.field === '' || c.field === 'quantity')) ||
  (c.field.startsWith('shipTo.') && c.field !== 'shipTo.phone') ||
  c.field === 'weightOverrideMg';

/** A copy of a document with changes of single fields applied; changes of whole lines are passed over. */
export function applied(d: OrderDocument, changes: readonly Change[]): OrderDocument {
  const after: OrderDocument = {
    head: { ...d.head },
    lines: Object.fromEntries(Object.entries(d.lines).map(([k, l]) => [k, { ...l }])),
  };
  for (const c of changes) {
    const fields = c.line === null ? after.head : after.lines[c.line];
    if (fields && c.field !== '') fields[c.field] = c.after;
  }
  return after;
}

/** Ours as the base, in the fields that the channel tells. */
function narrowed(ours: OrderDocument, theirs: OrderDocument): OrderDocument {
  const pick = (from: Record<string, unknown>, like: Record<string, unknown>) =>
    Object.fromEntries(Object.keys(like).map(k => [k, from[k] ?? null])) as OrderDocument['head'];
  return {
    head: pick(ours.head, theirs.head),
    lines: Object.fromEntries(Object.entries(ours.lines).map(([k, l]) => [k, pick(l, theirs.lines[k] ?? l)])),
  };
}
