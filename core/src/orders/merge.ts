import { type Change, diffDocuments, type OrderDocument, type Value } from './document.js';

/** What became of merging: the merged document, what of theirs was taken, and where both sides changed the same thing differently. */
export interface Merged {
  document: OrderDocument;
  taken: Change[];
  conflicts: Conflict[];
}

/** A field that both sides changed, to different values. The document keeps ours until a person decides. */
export interface Conflict {
  line: string | null;
  field: string;
  base: Value;
  ours: Value;
  theirs: Value;
}

/**
 * Merges field by field what a channel tells now (`theirs`) into what people here made of the order (`ours`), both grown from `base`.
 * A side that left a field as in `base` yields to the other; both the same is no conflict; both different keeps ours and names the
 * conflict. Lines come and go as a whole; a line that one side took away and the other changed is a conflict of the whole line.
 * Laws: with ours = base it gives theirs, with theirs = base it gives ours, with ours = theirs that, never a conflict.
 */
export function mergeDocuments(base: OrderDocument, ours: OrderDocument, theirs: OrderDocument): Merged {
  const conflicts: Conflict[] = [];
  const head = mergeFields(null, base.head, ours.head, theirs.head, conflicts);
  const lines: OrderDocument['lines'] = {};
  for (const key of new Set([...Object.keys(ours.lines), ...Object.keys(theirs.lines)])) {
    const line = mergeLine(key, base.lines[key], ours.lines[key], theirs.lines[key], conflicts);
    if (line) lines[key] = line;
  }
  const document = { head, lines };
  return { document, taken: diffDocuments(ours, document), conflicts };
}

type Fields = Record<string, Value>;

function mergeLine(
  key: string,
  base: Fields | undefined,
  ours: Fields | undefined,
  theirs: Fields | undefined,
  conflicts: Conflict[],
): Fields | undefined {
  if (ours && theirs) return mergeFields(key, base ?? {}, ours, theirs, conflicts);
  const [here, gone] = ours ? [ours, 'theirs'] : [theirs!, 'ours'];
  if (!base) return here;
  if (same(base, here)) return undefined;
  const words = (l: Fields | undefined) => (l ? `${l.quantity} × ${l.title}` : null);
  conflicts.push({ line: key, field: '', base: words(base), ours: words(ours), theirs: words(theirs) });
  return gone === 'theirs' ? ours : undefined;
}

function mergeFields(
  line: string | null,
  base: Fields,
  ours: Fields,
  theirs: Fields,
  conflicts: Conflict[],
): Fields {
  const merged: Fields = {};
  for (const field of new Set([...Object.keys(ours), ...Object.keys(theirs)])) {
    const [b, o, t] = [base[field] ?? null, ours[field] ?? null, theirs[field] ?? null];
    merged[field] = o === b ? t : o;
    if (o !== b && t !== b && o !== t) conflicts.push({ line, field, base: b, ours: o, theirs: t });
  }
  return merged;
}

const same = (a: Fields, b: Fields): boolean =>
  [...new Set([...Object.keys(a), ...Object.keys(b)])].every(f => (a[f] ?? null) === (b[f] ?? null));
