import type { FloorView, WalkView } from '@auk/contract';
import { count } from '@auk/core';
import { lineOf } from '../line.js';
import { Racks, type Scales, scalesOf, spotAt } from './Racks.js';

interface Props {
  floor: FloorView;
  /** Walks to draw, each with the pattern it bears beside its list. */
  walks: readonly { nth: number; walk: WalkView }[];
}

const WIDTH = 480;
/** Long aisles are drawn shorter and short ones longer than they are, so that stops can be told apart. */
const [LEAST_TALL, TALLEST] = [360, 520];
/** Walks that go the same way lie beside each other. */
const BESIDE = 4;

/** The floor drawn from above, its front at the bottom: racks, where walks begin, and each walk with its stops. */
export function FloorMap({ floor, walks }: Props) {
  const { aisles } = floor;
  const { x, y, height } = scalesOf(floor, {
    width: WIDTH,
    least: LEAST_TALL,
    most: TALLEST,
    edge: 26,
    foot: 40,
  });
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
        <text key={a.code} x={x(a.x)} y={height - 5} textAnchor="middle" fontSize="16" fill="var(--quiet)">
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
