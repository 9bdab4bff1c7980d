import type { Box } from '../packing/boxes.js';
import { weightOf } from '../packing/boxes.js';
import { tryBox } from '../packing/boxPlan.js';
import { fail, ok, type Result } from '../result.js';
import { count } from '../text.js';
import { formatWeight } from '../units/units.js';
import { type BoxLimits, contentsOf, type InboundBox, type LineToBox, piecesOf } from './inboundBoxes.js';

/** Units of one line that a person moves from one planned box into another, by their places from 0; null is a new box. */
export interface UnitsMoved {
  line: string;
  units: number;
  from: number;
  to: number | null;
}

/** A planned box by its kind and what is to lie in it. */
export type BoxContents = Pick<InboundBox, 'box' | 'contents'>;

/**
 * Planned boxes after a person moved units: both boxes are laid out anew, an emptied one is gone, a new one is the smallest that takes what
 * was moved. Refused in a sentence when something does not fit or is too heavy; lines are given with all their units.
 */
export function moveUnits(
  boxes: readonly BoxContents[],
  { line, units, from, to }: UnitsMoved,
  kinds: readonly Box[],
  lines: readonly LineToBox[],
  limits: BoxLimits,
): Result<InboundBox[], string> {
  const held = (at: number) => boxes[at]?.contents.find(c => c.id === line)?.units ?? 0;
  if (from === to || !boxes[from] || (to !== null && !boxes[to])) return fail('There is no such box.');
  if (units < 1 || units > held(from))
    return fail(
      `${count(held(from), 'unit')} of it ${held(from) === 1 ? 'lies' : 'lie'} in box ${from + 1}.`,
    );
  const wanted = boxes.map((b, i) => ({
    box: b.box,
    units: new Map(b.contents.map(c => [c.id, c.units])).set(line, held(i) - (i === from ? units : 0)),
  }));
  if (to !== null) wanted[to]!.units.set(line, held(to) + units);
  const laid: InboundBox[] = [];
  for (const [i, w] of wanted.entries()) {
    if ([...w.units.values()].every(n => n === 0)) continue;
    const one = layOut(w.box, w.units, lines, limits);
    if (!one.ok) return fail(`Box ${i + 1}: ${one.problem}`);
    laid.push(one.value);
  }
  if (to !== null) return ok(laid);
  const made = smallest(kinds, new Map([[line, units]]), lines, limits);
  return made ? ok([...laid, made]) : fail('No box takes that by itself.');
}

function smallest(
  kinds: readonly Box[],
  units: ReadonlyMap<string, number>,
  lines: readonly LineToBox[],
  limits: BoxLimits,
): InboundBox | null {
  const volume = ({ inner }: Box) => inner.length * inner.width * inner.height;
  for (const box of [...kinds].sort((a, b) => volume(a) - volume(b))) {
    const one = layOut(box, units, lines, limits);
    if (one.ok) return one.value;
  }
  return null;
}

/** One box with units of lines in it, as they lie. */
function layOut(
  box: Box,
  units: ReadonlyMap<string, number>,
  lines: readonly LineToBox[],
  { mostMg, heavyMg }: BoxLimits,
): Result<InboundBox, string> {
  const some = lines.flatMap(l => ((units.get(l.id) ?? 0) > 0 ? [{ ...l, units: units.get(l.id)! }] : []));
  const pieces = some.flatMap(piecesOf);
  const weightMg = box.tareMg + weightOf(pieces);
  if (weightMg > mostMg)
    return fail(
      `it would weigh ${formatWeight(weightMg, 'imperial')}, and ${formatWeight(mostMg, 'imperial')} are taken.`,
    );
  const tried = tryBox(box, pieces, {});
  if (tried.fits !== 'yes') return fail('not all of it goes in.');
  return ok({
    box,
    placed: tried.placed,
    contents: contentsOf(tried.placed, lines),
    weightMg,
    heavy: weightMg > heavyMg,
  });
}
