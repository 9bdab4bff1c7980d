import type { Size } from '../units/units.js';
import { type Corner, volumeOf } from './boxes.js';
import type { PlacedShape, Shape } from './shapes.js';

/** How a filling chooses: which block goes into a space, and how the floor beside a block is cut. */
export interface FillRule {
  choose: 'largest block' | 'largest piece' | 'snuggest' | 'heaviest';
  cut: 'larger rest' | 'along' | 'across';
}

/** The rules that are worth trying, those first that put heavy pieces below. */
export const FILL_RULES: readonly FillRule[] = [
  { choose: 'heaviest', cut: 'larger rest' },
  { choose: 'largest piece', cut: 'larger rest' },
  { choose: 'snuggest', cut: 'larger rest' },
  { choose: 'largest block', cut: 'larger rest' },
  { choose: 'largest piece', cut: 'along' },
  { choose: 'largest piece', cut: 'across' },
];

/** Room that is still free, down to what carries it. */
export interface Space extends Corner {
  size: Size;
}

/** A grid of pieces of one shape that lie alike. */
export interface Block {
  shape: Shape;
  way: Size;
  along: number;
  across: number;
  up: number;
}

/**
 * Fills a space with blocks of like pieces, from the floor up; every block stands on the floor or wholly on another one, nothing on what
 * is fragile. Gives what was placed; what is missing from it did not fit by this rule. It takes little time, and is often not the best.
 */
export function fillSpace(space: Size, shapes: readonly Shape[], rule: FillRule): PlacedShape[] {
  const left = new Map(shapes.map(s => [s, s.count]));
  const placed: PlacedShape[] = [];
  // What may carry goes first; what may not goes where there is room after it.
  let spaces: Space[] = [{ x: 0, y: 0, z: 0, size: space }];
  for (const fragile of [false, true]) {
    const kinds = shapes.filter(s => s.fragile === fragile);
    const unused: Space[] = [];
    while (spaces.length > 0) {
      const at = lowest(spaces);
      const block = bestBlock(at.size, kinds, left, rule);
      if (!block) {
        unused.push(at);
        continue;
      }
      left.set(block.shape, left.get(block.shape)! - piecesIn(block));
      placed.push(...piecesOf(block, at));
      spaces.push(...besides(at, block, rule.cut));
    }
    spaces = unused;
  }
  return placed;
}

/** Takes the lowest space out of the list, of those the one that is farthest back and left. */
export function lowest(spaces: Space[]): Space {
  let at = 0;
  for (let i = 1; i < spaces.length; i++) {
    const [a, b] = [spaces[i]!, spaces[at]!];
    if ((a.z - b.z || a.y - b.y || a.x - b.x) < 0) at = i;
  }
  return spaces.splice(at, 1)[0]!;
}

function bestBlock(
  room: Size,
  kinds: readonly Shape[],
  left: ReadonlyMap<Shape, number>,
  rule: FillRule,
): Block | null {
  let best: Block | null = null;
  let most = -Infinity;
  for (const shape of kinds) {
    const count = left.get(shape)!;
    if (count === 0) continue;
    for (const way of shape.ways) {
      if (room.length < way.length || room.width < way.width || room.height < way.height) continue;
      const block = blockIn(room, shape, way, count);
      const score = scoreOf(block, room, rule);
      if (score > most) [best, most] = [block, score];
    }
  }
  return best;
}

/** As many as there is room for, row by row; a row that is not full stands alone, and nothing on what is fragile. */
export function blockIn(room: Size, shape: Shape, way: Size, count: number): Block {
  const along = Math.min(Math.floor(room.length / way.length), count);
  const across = Math.max(1, Math.min(Math.floor(room.width / way.width), Math.floor(count / along)));
  const layers = Math.max(1, Math.floor(count / (along * across)));
  const up = shape.fragile ? 1 : Math.min(Math.floor(room.height / way.height), layers);
  return { shape, way, along, across, up };
}

/** How many pieces a block has. */
export const piecesIn = (b: Block): number => b.along * b.across * b.up;

/** How good a block is in a room by a rule: the more, the better. */
export function scoreOf(b: Block, room: Size, { choose }: Pick<FillRule, 'choose'>): number {
  const volume = piecesIn(b) * b.shape.volume;
  if (choose === 'largest block') return volume;
  // The share of each side of the room that stays open beside the block: the less, the less is lost.
  const gaps = [
    1 - (b.along * b.way.length) / room.length,
    1 - (b.across * b.way.width) / room.width,
    1 - (b.up * b.way.height) / room.height,
  ];
  const gap = gaps.reduce((sum, g) => sum + g, 0);
  if (choose === 'snuggest') return volume / volumeOf(room) - gap - 4 * Math.min(...gaps);
  // The heaviest first, and each as low as it lies.
  if (choose === 'heaviest') return b.shape.weightMg * 4 - b.way.height / room.height - gap / 8;
  return b.shape.volume * 4 - gap;
}

export function piecesOf(b: Block, at: Space): PlacedShape[] {
  const placed: PlacedShape[] = [];
  for (let k = 0; k < b.up; k++)
    for (let j = 0; j < b.across; j++)
      for (let i = 0; i < b.along; i++)
        placed.push({
          shape: b.shape,
          x: at.x + i * b.way.length,
          y: at.y + j * b.way.width,
          z: at.z + k * b.way.height,
          size: b.way,
        });
  return placed;
}

/** What is left of a space: above the block (nothing, where it is fragile), beside it and before it. */
export function besides(at: Space, b: Block, cut: FillRule['cut']): Space[] {
  const { length, width, height } = at.size;
  const used: Size = {
    length: b.along * b.way.length,
    width: b.across * b.way.width,
    height: b.up * b.way.height,
  };
  const beside = length - used.length;
  const before = width - used.width;
  const along = cut === 'along' || (cut === 'larger rest' && beside * width < length * before);
  const rest: Space[] = [
    { ...at, x: at.x + used.length, size: { length: beside, width: along ? used.width : width, height } },
    { ...at, y: at.y + used.width, size: { length: along ? length : used.length, width: before, height } },
  ];
  if (!b.shape.fragile)
    rest.push({ ...at, z: at.z + used.height, size: { ...used, height: height - used.height } });
  return rest.filter(r => r.size.length > 0 && r.size.width > 0 && r.size.height > 0);
}
