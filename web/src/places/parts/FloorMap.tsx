import type { FloorView, WalkView } from '@auk/contract';
import { count } from '@auk/core';
import { lineOf } from '../line.js';

interface Props {
  floor: FloorView;
  /** Walks to draw, each with the pattern it bears beside its list. */
  walks: readonly { nth: number; walk: WalkView }[];
}

const WIDTH = 480;
const EDGE = 26;
/** Long aisles are drawn shorter and short ones longer than they are, so that stops can be told apart. */
const [LEAST_TALL, TALLEST] = [360, 520];
const RACK = 0.58;
/** Walks that go the same way lie beside each other. */
const BESIDE = 4;

/** The floor drawn from above, its front at the bottom: racks, where walks begin, and each walk with its stops. */
export function FloorMap({ floor, walks }: Props) {
  const { aisles, crossAisles } = floor;
  const across = [...aisles.map(a => a.x), ...crossAisles.flatMap(c => [c.from, c.to])];
  const deep = [...crossAisles.map(c => c.y), ...aisles.flatMap(a => [a.from, a.to])];
  const [left, right] = [Math.min(...across), Math.max(...across)];
  const [front, back] = [Math.min(...deep), Math.max(...deep)];
  const scale = (WIDTH - 2 * EDGE) / Math.max(1, right - left);
  const height = Math.min(TALLEST, Math.max(LEAST_TALL, (back - front) * scale)) + 2 * EDGE;
  const tall = (height - 2 * EDGE) / Math.max(1, back - front);
  const x = (m: number) => EDGE + (m - left) * scale;
  const y = (m: number) => height - EDGE - (m - front) * tall;
  const start = spotAt(floor, floor.start);
  const places = walks[0]?.walk.stops.map(s => s.code).join(', ');
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${height}`}
      width="100%"
      role="img"
      aria-label={`The floor with ${count(walks.length, 'walk')}${walks.length === 1 ? `: ${places}` : ''}`}
    >
      <Racks floor={floor} x={x} y={y} />
      {aisles.map(a => (
        <text key={a.code} x={x(a.x)} y={height - 6} textAnchor="middle" fontSize="12" fill="var(--quiet)">
          {a.code}
        </text>
      ))}
      {walks.map(({ nth, walk }) => (
        <Line key={nth} nth={nth} walk={walk} x={x} y={y} />
      ))}
      <path d={`M${x(start.x) - 8} ${y(start.y) + 16}h16l-8 -11z`} fill="var(--ink)" stroke="var(--ground)" />
    </svg>
  );
}

interface Scales {
  x: (m: number) => number;
  y: (m: number) => number;
}

/** Where a spot of a floor lies; its left front corner when its way is not there. */
function spotAt(floor: FloorView, spot: FloorView['start']): { x: number; y: number } {
  const aisle = floor.aisles.find(a => a.code === spot.way);
  if (aisle) return { x: aisle.x, y: aisle.from + spot.along };
  const cross = floor.crossAisles.find(c => c.code === spot.way);
  return cross ? { x: cross.from + spot.along, y: cross.y } : { x: 0, y: 0 };
}

/** Racks stand between two neighbouring aisles, from one cross aisle to the next; where there are none, the aisle is drawn as a line. */
function Racks({ floor, x, y }: { floor: FloorView } & Scales) {
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

/** One walk: its line in its pattern, and a circle for each stop. */
function Line({ nth, walk, x, y }: { nth: number; walk: WalkView } & Scales) {
  const { stroke, dash, width } = lineOf(nth);
  const aside = (nth - 1.5) * BESIDE;
  const at = (p: { x: number; y: number }) => `${x(p.x) + aside} ${y(p.y) + aside}`;
  return (
    <g>
      <path
        d={walk.path.map((p, i) => `${i === 0 ? 'M' : 'L'}${at(p)}`).join('')}
        fill="none"
        stroke={stroke}
        strokeWidth={width}
        strokeDasharray={dash}
        strokeLinejoin="round"
      />
      {walk.stops.map(s => (
        <circle
          key={s.code}
          cx={x(s.x) + aside}
          cy={y(s.y) + aside}
          r="5"
          fill={stroke}
          stroke="var(--ground)"
          strokeWidth="1.5"
        >
          <title>{s.code}</title>
        </circle>
      ))}
    </g>
  );
}
