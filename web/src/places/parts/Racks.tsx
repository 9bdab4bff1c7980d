import type { FloorView } from '@auk/contract';

/** Of the width between two aisles, so much is rack. */
const RACK = 0.58;

/** Where metres of the floor lie in a drawing. */
export interface Scales {
  x: (m: number) => number;
  y: (m: number) => number;
}

interface Frame {
  width: number;
  /** The floor is drawn at least and at most so tall. */
  least: number;
  most: number;
  /** Free at all sides, and below. */
  edge: number;
  foot: number;
}

/** The scales of a drawing of a floor, its front at the bottom, and how tall it is. */
export function scalesOf({ aisles, crossAisles }: FloorView, frame: Frame): Scales & { height: number } {
  const across = [...aisles.map(a => a.x), ...crossAisles.flatMap(c => [c.from, c.to])];
  const deep = [...crossAisles.map(c => c.y), ...aisles.flatMap(a => [a.from, a.to])];
  const [left, right] = [Math.min(...across), Math.max(...across)];
  const [front, back] = [Math.min(...deep), Math.max(...deep)];
  const scale = (frame.width - 2 * frame.edge) / Math.max(1, right - left);
  const floor = Math.min(frame.most, Math.max(frame.least, (back - front) * scale));
  const height = floor + frame.edge + frame.foot;
  const tall = floor / Math.max(1, back - front);
  return {
    x: m => frame.edge + (m - left) * scale,
    y: m => height - frame.foot - (m - front) * tall,
    height,
  };
}

/** Where a spot of a floor lies; its left front corner when its way is not there. */
export function spotAt(floor: FloorView, spot: FloorView['start']): { x: number; y: number } {
  const aisle = floor.aisles.find(a => a.code === spot.way);
  if (aisle) return { x: aisle.x, y: aisle.from + spot.along };
  const cross = floor.crossAisles.find(c => c.code === spot.way);
  return cross ? { x: cross.from + spot.along, y: cross.y } : { x: 0, y: 0 };
}

/** Racks stand between two neighbouring aisles, from one cross aisle to the next; where there are none, the aisle is drawn as a line. */
export function Racks({ floor, x, y }: { floor: FloorView } & Scales) {
  const aisles = [...floor.aisles].sort((a, b) => a.x - b.x);
  const levels = floor.crossAisles.map(c => c.y).sort((a, b) => a - b);
  const racks = aisles.slice(1).flatMap((a, i) => {
    const before = aisles[i]!;
    const gap = x(a.x) - x(before.x);
    return levels.slice(1).flatMap((high, k) => {
      const low = levels[k]!;
      const there = low >= Math.max(a.from, before.from) && high <= Math.min(a.to, before.to);
      return there
        ? [
            <rect
              key={`${a.code} ${high}`}
              x={x(before.x) + (gap * (1 - RACK)) / 2}
              width={gap * RACK}
              y={y(high) + 12}
              height={Math.max(0, y(low) - y(high) - 24)}
              fill="var(--line)"
            />,
          ]
        : [];
    });
  });
  const ways = [
    ...aisles.map(a => ({ code: a.code, d: `M${x(a.x)} ${y(a.from)}V${y(a.to)}` })),
    ...floor.crossAisles.map(c => ({ code: c.code, d: `M${x(c.from)} ${y(c.y)}H${x(c.to)}` })),
  ];
  return (
    <>
      {ways.map(w => (
        <path key={w.code} d={w.d} stroke="var(--line)" strokeWidth="1" fill="none" />
      ))}
      {racks}
    </>
  );
}
