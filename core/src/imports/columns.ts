/** A field that a column of a file can fill, with the plain words (lower case, no signs) that its heading may have. */
export interface FieldSpec {
  field: string;
  words: string;
  headings: readonly string[];
  required?: boolean;
}

/** Which column (from 0) fills which field. */
export type Mapping = Record<string, number>;

/** A heading in lower case without spaces and signs, as mappings compare it. Example: `plainHeading('Order No.')` is `orderno`. */
export const plainHeading = (heading: string): string =>
  heading
    .normalize('NFD')
    .toLowerCase()
    .replace(/[^a-z0-9]/g, '');

/**
 * Guesses which column fills which field: first by exactly one of the field's words, then by a heading that holds a word of at least
 * five letters. A column serves one field; of several with one heading the first counts.
 */
export function guessColumns(fields: readonly FieldSpec[], headings: readonly string[]): Mapping {
  const plain = headings.map(plainHeading);
  const mapping: Mapping = {};
  const taken = new Set<number>();
  const take = (field: string, at: number) => {
    if (at === -1 || mapping[field] !== undefined) return;
    mapping[field] = at;
    taken.add(at);
  };
  for (const f of fields)
    for (const word of f.headings)
      take(
        f.field,
        plain.findIndex((h, i) => h === word && !taken.has(i)),
      );
  for (const f of fields)
    for (const word of f.headings.filter(w => w.length >= 5))
      take(
        f.field,
        plain.findIndex((h, i) => h.includes(word) && !taken.has(i)),
      );
  return mapping;
}

/** The required fields that no column fills. */
export function missingFields(fields: readonly FieldSpec[], mapping: Mapping): FieldSpec[] {
  return fields.filter(f => f.required && mapping[f.field] === undefined);
}
