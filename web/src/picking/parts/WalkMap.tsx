/** A stop: aisle of its place from 0, distance along it in tenths of a millimetre; null where nobody knows where it stands. */
export interface MapStop {
  aisle: number | null;
  along: number | null;
  done: boolean;
}

/** A stop that stands on the map; `nth` is its number on the walk. */
interface Drawn {
  nth: number;
  aisle: number;
  along: number;
  done: boolean;
}

const AISLES = 8;
const LENGTH = 164_000;

/** The walk drawn on the warehouse: racks, the line from stop to stop, and where one stands. Stops that stand nowhere are not drawn. */
export function WalkMap({
  stops,
  at,
  height = 118,
}: {
  stops: MapStop[];
  at: number | null;
  height?: number;
}) {
  const width = 360;
  const pitch = width / AISLES;
  const x = (s: Drawn) => pitch * s.aisle + pitch / 2;
  const y = (s: Drawn) => height - 14 - (s.along / LENGTH) * (height - 28);
  const drawn = stops.flatMap(({ aisle, along, done }, nth): Drawn[] =>
    aisle === null || along === null ? [] : [{ nth, aisle, along, done }],
  );
  const legs = drawn
    .slice(1)
    .map((s, i) => ({ from: drawn[i]!, to: s, walked: at === null ? s.done : s.nth <= at }));
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      width="100%"
      role="img"
      aria-label="The walk through the warehouse"
    >
      {Array.from({ length: AISLES + 1 }, (_, i) => (
        <rect key={i} x={pitch * i - 9} y={14} width={18} height={height - 28} fill="var(--line)" />
      ))}
      {legs.map((l, i) => {
        const level = l.from.aisle === l.to.aisle ? null : y(l.from) + y(l.to) > height ? height - 6 : 6;
        const d =
          level === null
            ? `M${x(l.from)} ${y(l.from)}V${y(l.to)}`
            : `M${x(l.from)} ${y(l.from)}V${level}H${x(l.to)}V${y(l.to)}`;
        return (
          <path
            key={i}
            d={d}
            fill="none"
            stroke={l.walked ? 'var(--done)' : 'var(--quiet)'}
            strokeWidth={l.walked ? 3 : 1.6}
            strokeDasharray={l.walked ? undefined : '3 3'}
          />
        );
      })}
      {drawn.map(s => (
        <circle
          key={s.nth}
          cx={x(s)}
          cy={y(s)}
          r={s.nth === at ? 7 : 3.6}
          fill={s.nth === at ? 'var(--act)' : s.done ? 'var(--done)' : 'var(--quiet)'}
          stroke={s.nth === at ? 'var(--ink)' : 'none'}
        />
      ))}
    </svg>
  );
}
