import { FoundAll } from '@auk/contract';
import { get } from '../api.js';

const LONGEST = 2_000;

/** Whatever has this code, or is called so. */
export const find = (text: string) =>
  get(FoundAll, `find?text=${encodeURIComponent(text.slice(0, LONGEST))}`);
