import type { Size } from '../units/units.js';
import { volumeOf } from './boxes.js';
import { FILL_RULES, fillSpace } from './fillSpace.js';
import { joinFaces } from './joinFaces.js';
import { placePoints } from './placePoints.js';
import { type Searched, type Steps, searchSpace } from './searchSpace.js';
import type { Shape } from './shapes.js';

/** Up to so many pieces all normal places are tried; more would be too many. */
const ALL_PLACES = 6;
/** Up to so many pieces are searched at all; for more, blocks of like pieces are the better way. */
const SEARCHED = 24;
/** Orders in which pieces are put one after the other. */
const ORDERS = 50;
/** The share of a space that may stay empty for it to be worth putting pieces together by their faces. */
const TIGHT = 0.06;
/** Steps for putting pieces together that share a face. */
const JOINING = 40_000;

/**
 * Whether all shapes fit into a space, and how they lie there. First what is plainly too much is refused, then quick fillings are tried,
 * then a search with a number of steps. 'unknown': not found within them.
 */
export function fitSpace(space: Size, shapes: readonly Shape[], steps: Steps): Searched {
  if (plainlyTooMuch(space, shapes)) return { found: 'no' };
  const count = shapes.reduce((n, s) => n + s.count, 0);
  for (const rule of FILL_RULES) {
    const placed = fillSpace(space, shapes, rule);
    if (placed.length === count) return { found: 'yes', placed };
  }
  if (count > SEARCHED) return { found: 'unknown' };
  const pointed = placePoints(space, shapes, ORDERS);
  if (pointed) return { found: 'yes', placed: pointed };
  const given = steps.left;
  const touching = searchSpace(space, shapes, steps, false);
  if (touching.found === 'yes') return touching;
  if (count <= ALL_PLACES) return searchSpace(space, shapes, steps, true);
  if (slack(space, shapes) > TIGHT) return touching;
  const joined = joinFaces(space, shapes, { left: Math.min(JOINING, 3 * given) });
  return joined ? { found: 'yes', placed: joined } : { found: 'unknown' };
}

/**
 * True when the shapes cannot fit for a reason that is quick to see: a piece that fits in no way, more volume than there is, or pieces
 * that can neither lie beside nor behind one another and are too high as a pile (in each of the three directions).
 */
export function plainlyTooMuch(space: Size, shapes: readonly Shape[]): boolean {
  let volume = 0;
  const least: Size[] = [];
  for (const s of shapes) {
    const ways = s.ways.filter(
      w => w.length <= space.length && w.width <= space.width && w.height <= space.height,
    );
    if (ways.length === 0) return true;
    volume += s.volume * s.count;
    const side = (key: keyof Size) => Math.min(...ways.map(w => w[key]));
    const sides = { length: side('length'), width: side('width'), height: side('height') };
    for (let n = 0; n < Math.min(s.count, 30); n++) least.push(sides);
  }
  if (volume > volumeOf(space)) return true;
  return (
    pileTooHigh(space, least, 'length', 'width', 'height') ||
    pileTooHigh(space, least, 'length', 'height', 'width') ||
    pileTooHigh(space, least, 'width', 'height', 'length')
  );
}

/** Pieces of which no two have room beside each other along `a` or `b`, and that are longer than the space along `c` together. */
function pileTooHigh(
  space: Size,
  least: readonly Size[],
  a: keyof Size,
  b: keyof Size,
  c: keyof Size,
): boolean {
  const pile: Size[] = [];
  for (const s of [...least].sort((x, y) => Math.min(y[a], y[b]) - Math.min(x[a], x[b])))
    if (pile.every(p => p[a] + s[a] > space[a] && p[b] + s[b] > space[b])) pile.push(s);
  return pile.reduce((sum, s) => sum + s[c], 0) > space[c];
}

/** The share of a space that the shapes leave empty. */
const slack = (space: Size, shapes: readonly Shape[]): number =>
  1 - shapes.reduce((v, s) => v + s.volume * s.count, 0) / volumeOf(space);
