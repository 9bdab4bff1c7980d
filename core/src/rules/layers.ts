/** Whose word counts, the weakest first: the house's usual, what a product prefers, a rule, a person's hand. */
export const LAYERS = ['house', 'product', 'rule', 'hand'] as const;
export type Layer = (typeof LAYERS)[number];

/** What one layer says of a field, and whose word it is, as people read it ("book 15, rule 4", "Ines Maddow"). */
export interface LayerSays<T> {
  layer: Layer;
  value: T;
  by: string;
}

/** What counts of a field, and what it went over, the strongest of those first. */
export interface Counts<T> extends LayerSays<T> {
  over: readonly LayerSays<T>[];
}

/** The strongest word on a field; null when nobody says anything. Of one layer the last said counts. */
export function whatCounts<T>(says: readonly LayerSays<T>[]): Counts<T> | null {
  const ranked = says
    .map((s, i) => ({ s, i }))
    .sort((a, b) => LAYERS.indexOf(b.s.layer) - LAYERS.indexOf(a.s.layer) || b.i - a.i)
    .map(({ s }) => s);
  const [first, ...over] = ranked;
  return first ? { ...first, over } : null;
}
