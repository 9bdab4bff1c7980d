import { pairLikeness } from '../catalog/propose.js';

/** From this likeness on, one name is easily read for another. */
const LEAST = 0.6;

/** Of some names the one that is easily taken for `name`; null when none is. Example: of a jar of 12 oz for one of 9 oz, the jar. */
export function looksLike(name: string, others: readonly string[]): string | null {
  const [first] = others
    .map(other => ({ other, likeness: pairLikeness(name.toLowerCase(), other.toLowerCase()) }))
    .filter(o => o.likeness >= LEAST)
    .sort((a, b) => b.likeness - a.likeness);
  return first?.other ?? null;
}
