import type { Corner, Size } from '@auk/core';
import css from './box.module.css';
import { backToFront, facesOf, type Point, project } from './isometric.js';

/** A piece that lies in a box, from the box's left front lower corner. */
export interface Lying extends Corner {
  size: Size;
}

interface Props<P extends Lying> {
  inner: Size;
  placed: readonly P[];
  /** The piece that goes in next. */
  next?: P | null;
  /** What the drawing says to those who do not see it. */
  label: string;
  /** Height in rem. */
  height: number;
  /** The size of the largest box beside it, so that several are drawn to one scale. */
  beside?: Size;
  /** Which kind of thing a piece is, from 0: it has a letter and a shade of its own. */
  kindOf?: (piece: P) => number;
}

const path = (points: readonly Point[]): string =>
  `M${points.map(p => `${p.x.toFixed(0)} ${p.y.toFixed(0)}`).join('L')}Z`;

/** Where the corners of a box are drawn: its floor, the same projected, and its rim. */
function cornersOf({ length, width, height }: Size) {
  const floor = [
    { x: 0, y: 0, z: 0 },
    { x: length, y: 0, z: 0 },
    { x: length, y: width, z: 0 },
    { x: 0, y: width, z: 0 },
  ];
  return { floor, ground: floor.map(project), rim: floor.map(c => project({ ...c, z: height })) };
}

function viewOf(size: Size): string {
  const { ground, rim } = cornersOf(size);
  const all = [...ground, ...rim];
  const [left, right] = [Math.min(...all.map(p => p.x)), Math.max(...all.map(p => p.x))];
  const [top, bottom] = [Math.min(...all.map(p => p.y)), Math.max(...all.map(p => p.y))];
  return `${left - 40} ${top - 40} ${right - left + 80} ${bottom - top + 80}`;
}

/** An open box with what lies in it, drawn from its front right corner. */
export function OpenBox<P extends Lying>(props: Props<P>) {
  const { inner, placed, next = null, label, height, beside, kindOf } = props;
  const { floor, ground, rim } = cornersOf(inner);
  const up = inner.height;
  return (
    <svg
      className={css.box}
      style={{ height: `${height}rem` }}
      role="img"
      aria-label={label}
      viewBox={viewOf(beside ?? inner)}
    >
      {[
        [floor[0]!, floor[1]!],
        [floor[0]!, floor[3]!],
      ].map(([a, b], i) => (
        <path
          key={i}
          className={css.wall}
          d={path([project(a!), project(b!), project({ ...b!, z: up }), project({ ...a!, z: up })])}
        />
      ))}
      <path className={css.wall} d={path(ground)} />
      {backToFront(placed).map((p, i) => (
        <g key={i} className={p === next ? css.next : css.laid} data-kind={kindOf && kindOf(p) % KINDS}>
          {facesOf(p, p.size).map((face, f) => (
            <path key={f} data-face={f} d={path(face)} />
          ))}
          {kindOf && <Mark of={p} text={letterOf(kindOf(p))} inner={inner} />}
        </g>
      ))}
      <path className={css.rim} d={path(rim)} />
    </svg>
  );
}

/** Shades that follow one another. */
const KINDS = 4;
/** The letter of a kind of thing. Example: 0 is A. */
export const letterOf = (kind: number): string => String.fromCharCode(65 + (kind % 26));

/** A letter on the top of a piece, where it has room. */
function Mark({ of: p, text, inner }: { of: Lying; text: string; inner: Size }) {
  const letter = (inner.length + inner.width) / 24;
  if (Math.min(p.size.length, p.size.width) < letter) return null;
  const top = { x: p.x + p.size.length / 2, y: p.y + p.size.width / 2, z: p.z + p.size.height };
  const { x, y } = project(top);
  return (
    <text className={css.mark} x={x} y={y} fontSize={letter} textAnchor="middle" dominantBaseline="middle">
      {text}
    </text>
  );
}
