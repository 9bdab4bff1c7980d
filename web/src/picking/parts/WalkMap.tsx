import { pathThrough, type Spot } from '@auk/core';
import { useQuery } from '@tanstack/react-query';
import { floorQuery } from '../../places/api.js';
import { inMetres, layoutOf } from '../../places/layout.js';
import { Racks, scalesOf } from '../../places/parts/Racks.js';

/** A stop: aisle of its place from 0, distance along it in tenths of a millimetre; null where nobody knows where it stands. */
export interface MapStop {
  aisle: number | null;
  along: number | null;
  done: boolean;
}

interface Props {
  stops: readonly MapStop[];
  /** The stop at hand, by its number on the walk; null when nobody walks it. */
  at: number | null;
  height?: number;
}

const WIDTH = 360;
const EDGE = 12;
const METRE = 10_000;

/** The walk drawn on the floor of the house: racks, the way from stop to stop, and where one stands. Stops that stand nowhere are not drawn. */
export function WalkMap({ stops, at, height = 118 }: Props) {
  const floor = useQuery(floorQuery).data;
  if (!floor) return null;
  const frame = { width: WIDTH, least: height - 2 * EDGE, most: height - 2 * EDGE, edge: EDGE, foot: EDGE };
  const { x, y } = scalesOf(floor, frame);
  const layout = layoutOf(floor);
  const drawn = stops.flatMap((s, nth) => {
    const aisle = s.aisle === null ? undefined : layout.aisles[s.aisle];
    if (!aisle || s.along === null) return [];
    const spot: Spot = { aisle: s.aisle!, along: s.along };
    return [{ nth, spot, done: s.done, x: x(aisle.x / METRE), y: y((aisle.from + s.along) / METRE) }];
  });
  const way = (of: typeof drawn) => {
    const corners = pathThrough(
      layout,
      of.map(s => s.spot),
    ).map(inMetres);
    return corners.map((p, i) => `${i === 0 ? 'M' : 'L'}${x(p.x)} ${y(p.y)}`).join('');
  };
  const walked = drawn.filter(s => (at === null ? s.done : s.nth <= at));
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${height}`}
      width="100%"
      role="img"
      aria-label="The walk through the warehouse"
    >
      <Racks floor={floor} x={x} y={y} />
      <path d={way(drawn)} fill="none" stroke="var(--quiet)" strokeWidth="1.6" strokeDasharray="3 3" />
      {walked.length > 0 && <path d={way(walked)} fill="none" stroke="var(--done)" strokeWidth="3" />}
      {drawn.map(s => (
        <circle
          key={s.nth}
          cx={s.x}
          cy={s.y}
          r={s.nth === at ? 7 : 3.6}
          fill={s.nth === at ? 'var(--act)' : s.done ? 'var(--done)' : 'var(--quiet)'}
          stroke={s.nth === at ? 'var(--ink)' : 'none'}
        />
      ))}
    </svg>
  );
}
