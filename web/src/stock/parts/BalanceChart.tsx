import { useMemo } from 'react';
import { Chart, type Series } from '../../parts/chart/Chart.js';

interface Props {
  days: readonly { day: string; onHand: number }[];
  /** The product, as the chart and its file are called. */
  name: string;
}

/** What was on hand at the end of each day, as steps from nothing upwards. */
export function BalanceChart({ days, name }: Props) {
  const along = useMemo(() => days.map(d => d.day), [days]);
  const series = useMemo(
    (): Series[] => [
      { name: 'On hand', tone: 'info', steps: true, filled: true, values: days.map(d => d.onHand) },
    ],
    [days],
  );
  if (days.length === 0) return null;
  return <Chart label={`${name}, on hand by day`} along={along} alongName="Day" series={series} />;
}
