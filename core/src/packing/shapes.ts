import type { Size } from '../units/units.js';
import { type Corner, type Piece, type Placed, volumeOf, waysToLie } from './boxes.js';

/** Pieces that take the same space in the same ways: what is searched with; which of them lies where is decided at the end. */
export interface Shape {
  ways: Size[];
  count: number;
  fragile: boolean;
  /** Its height stays upright. */
  upright: boolean;
  /** It is one thing whose sides do not change; what may be folded is not. */
  rigid: boolean;
  volume: number;
  /** Of the heaviest of them, in milligrams. */
  weightMg: number;
  pieces: Piece[];
}

/** A shape that was put somewhere. */
export interface PlacedShape extends Corner {
  shape: Shape;
  size: Size;
}

/** Groups pieces by how they may lie; shapes with the largest volume first, then the heavier, then as they came. */
export function shapesOf(pieces: readonly Piece[], padding: number): Shape[] {
  const shapes = new Map<string, Shape>();
  for (const piece of pieces) {
    if (piece.quantity === 0) continue;
    const ways = waysToLie(piece, padding).sort(byBase);
    const key = `${piece.fragile ? 'fragile' : ''} ${ways.map(w => `${w.length} ${w.width} ${w.height}`).join()}`;
    const known = shapes.get(key);
    if (known) {
      known.count += piece.quantity;
      known.weightMg = Math.max(known.weightMg, piece.weightMg);
      known.pieces.push(piece);
    } else
      shapes.set(key, {
        ways,
        count: piece.quantity,
        fragile: piece.fragile ?? false,
        upright: piece.upright ?? false,
        rigid: !piece.foldable,
        volume: volumeOf(ways[0]!),
        weightMg: piece.weightMg,
        pieces: [piece],
      });
  }
  return [...shapes.values()].sort((a, b) => b.volume - a.volume || b.weightMg - a.weightMg);
}

/** Flat before upright, so that pieces lie as low as they can; then by their sides, so that the order does not depend on how they were typed. */
const byBase = (a: Size, b: Size): number => a.height - b.height || a.width - b.width || a.length - b.length;

/** Says which piece lies where: of pieces of one shape the heavier lie lower. In the order in which they go in. */
export function placedPieces(placed: readonly PlacedShape[]): Placed[] {
  const left = new Map<Shape, { piece: Piece; count: number }[]>();
  return [...placed].sort(byHeight).map(({ shape, ...where }) => {
    let stock = left.get(shape);
    if (!stock) {
      stock = [...shape.pieces]
        .sort((a, b) => b.weightMg - a.weightMg)
        .map(piece => ({ piece, count: piece.quantity }));
      left.set(shape, stock);
    }
    const next = stock.find(s => s.count > 0)!;
    next.count--;
    return { ...where, piece: next.piece };
  });
}

/** From the floor up, from the back to the front, from the left to the right: nothing has to pass through what lies there already. */
const byHeight = (a: Corner, b: Corner): number => a.z - b.z || a.y - b.y || a.x - b.x;
