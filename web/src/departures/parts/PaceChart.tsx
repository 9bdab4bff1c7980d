import type { Board } from '@auk/contract';
import { useMemo } from 'react';
import { Chart, type Series } from '../../parts/chart/Chart.js';
import { clock } from '../../parts/format.js';
import textCss from '../../parts/text.module.css';

/** Labels bought by each hour, against what must be labelled by then. */
export function PaceChart({ points, zone }: { points: Board['labelledByHour']; zone: string }) {
  const along = useMemo(() => points.map(p => clock(p.at, zone)), [points, zone]);
  const series = useMemo((): Series[] => {
    let due = 0;
    return [
      { name: 'Labelled', tone: 'done', values: points.map(p => (p.labelled < 0 ? null : p.labelled)) },
      {
        name: 'Due by their cut-offs',
        tone: 'ink',
        dashed: true,
        steps: true,
        values: points.map(p => {
          due = Math.max(due, p.due);
          return due;
        }),
      },
    ];
  }, [points]);
  return (
    <>
      {points.every(p => p.labelled <= 0) && <p className={textCss.quiet}>No label was bought yet today.</p>}
      <Chart
        label="Labelled today against the cut-offs"
        along={along}
        alongName="By"
        series={series}
        height={10}
      />
    </>
  );
}
