import { DateTime } from 'luxon';

const [WIDTH, HEIGHT, LEFT, BOTTOM, TOP] = [1180, 170, 44, 24, 10];

/** What was on hand at the end of each day, as steps; the scale begins at nothing. */
export function BalanceChart({ days }: { days: readonly { day: string; onHand: number }[] }) {
  if (days.length === 0) return null;
  const most = Math.max(...days.map(d => d.onHand), 1);
  const step = (WIDTH - LEFT) / days.length;
  const y = (n: number) => TOP + (HEIGHT - TOP - BOTTOM) * (1 - n / most);
  const path = days
    .map((d, i) => `${i === 0 ? `M${LEFT}` : `L${LEFT + i * step}`} ${y(d.onHand)} H${LEFT + (i + 1) * step}`)
    .join(' ');
  const base = y(0);
  const middle = Math.round(most / 2);
  return (
    <svg
      className="balance"
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      role="img"
      aria-label={`On hand over ${days.length} days: ${days[0]!.onHand} at first, ${days.at(-1)!.onHand} now, at most ${most}.`}
    >
      {[0, middle, most].map(n => (
        <g key={n}>
          <line x1={LEFT} x2={WIDTH} y1={y(n)} y2={y(n)} className="grid" />
          <text x={LEFT - 8} y={y(n) + 4} textAnchor="end">
            {n}
          </text>
        </g>
      ))}
      <path className="area" d={`${path} V${base} H${LEFT} Z`} />
      <path className="line" d={path} />
      {days.map((d, i) =>
        i % 10 === 0 ? (
          <text key={d.day} x={LEFT + i * step} y={HEIGHT - 6}>
            {DateTime.fromISO(d.day).toFormat('d LLL')}
          </text>
        ) : null,
      )}
      <text x={WIDTH} y={HEIGHT - 6} textAnchor="end">
        today
      </text>
    </svg>
  );
}
