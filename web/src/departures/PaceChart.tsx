import type { Board } from '@auk/contract';
import { clock } from '../parts/format.js';

const WIDTH = 400;
const HEIGHT = 130;
const LEFT = 34;
const BOTTOM = 22;

/** Labels bought by each hour (solid), beside what must be labelled by then (dashed). */
export function PaceChart({ points, zone }: { points: Board['labelledByHour']; zone: string }) {
  const top = Math.max(10, ...points.map(p => Math.max(p.labelled, p.due)));
  const x = (i: number) => LEFT + (i * (WIDTH - LEFT - 8)) / Math.max(1, points.length - 1);
  const y = (n: number) => HEIGHT - BOTTOM - (n * (HEIGHT - BOTTOM - 12)) / top;
  const path = (values: number[]) =>
    values
      .map((v, i) => (v < 0 ? '' : `${i === 0 ? 'M' : 'L'}${x(i).toFixed(1)} ${y(v).toFixed(1)}`))
      .join('');
  let due = 0;
  const dues = points.map(p => (due = Math.max(due, p.due)));
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      width="100%"
      role="img"
      aria-label="Labels bought by each hour, against what must be labelled by then"
    >
      {[0, top / 2, top].map(v => (
        <g key={v}>
          <line x1={LEFT} x2={WIDTH - 4} y1={y(v)} y2={y(v)} stroke="#d5d9d6" />
          <text x={LEFT - 6} y={y(v) + 4} textAnchor="end" fontSize="11" fill="#46545f">
            {Math.round(v)}
          </text>
        </g>
      ))}
      <path d={path(dues)} fill="none" stroke="#17212b" strokeWidth="1.6" strokeDasharray="3 3" />
      <path d={path(points.map(p => p.labelled))} fill="none" stroke="#1f6f5c" strokeWidth="3" />
      {points.map(
        (p, i) =>
          i % 2 === 0 && (
            <text key={p.at} x={x(i)} y={HEIGHT - 6} textAnchor="middle" fontSize="11" fill="#46545f">
              {clock(p.at, zone)}
            </text>
          ),
      )}
    </svg>
  );
}
