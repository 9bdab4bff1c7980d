import type { ImportReport } from '@auk/contract';
import type { Outcome } from './importer.js';

/** Things that a report shows, and bad cells; counts are always whole. */
export const SHOWN = 200;
const FIRST = ['changed', 'cannot change', 'new', 'same'];

/** A report with the outcomes of another portion: all are counted, and the most telling ones shown. */
export function withMore(report: ImportReport, outcomes: readonly Outcome[]): ImportReport {
  const counts = { ...report.counts };
  const stages = { ...report.stages };
  for (const o of outcomes) {
    counts[o.state === 'cannot change' ? 'cannotChange' : o.state]++;
    if (o.stage) stages[o.stage] = (stages[o.stage] ?? 0) + 1;
  }
  const rows = [...report.rows, ...outcomes.map(({ stage: _, ...o }) => o)]
    .sort((a, b) => FIRST.indexOf(a.state) - FIRST.indexOf(b.state) || a.row - b.row)
    .slice(0, SHOWN);
  return { ...report, counts, stages, rows };
}
