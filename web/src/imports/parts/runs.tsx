import { ImportRun } from '@auk/contract';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Link from '@mui/material/Link';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo } from 'react';
import { changed } from '../../asked.js';
import { moment } from '../../parts/format.js';
import { ProblemNote } from '../../parts/problem.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { retryJob } from '../../setup/api.js';
import { runQuery, runsQuery } from '../api.js';
import css from '../imports.module.css';

/** While a file is taken in, it is asked how far it is; the live stream says so too, where it is to be had. */
const _ASK_MS = 500;

const number = (n: number) => n.toLocaleString('en-US');

/** A file that is being taken in, or was; everything else on the screen is asked anew when it is done. */
export function useRun(id: string | null) {
  const client = useQueryClient();
  const run = useQuery({ ...runQuery(id ?? ''), enabled: id !== null });
  const state = run.data?.state;
  useEffect(() => {
    if (state === 'done') void changed(client, 'orders', 'catalog', 'stock', 'purchases');
  }, [state, client]);
  return run;
}

/** How far a file is; it goes on without this page. */
export function Progress({ run, thing }: { run: ImportRun; thing: string }) {
  const client = useQueryClient();
  const retry = useMutation({
    mutationFn: () => retryJob(run.job!),
    onSuccess: () => client.invalidateQueries(runsQuery),
  });
  return (
    <div className={css.progress} role="status">
      <p>
        <b>{run.name}</b>: {number(run.taken)} of {number(run.things)}{' '}
        {run.things === 1 ? thing : `${thing}s`} taken in
        {run.state === 'given up' ? '.' : ' so far. It goes on if you leave this page.'}
      </p>
      <LinearProgress
        variant={run.taken === 0 && run.state === 'under way' ? 'indeterminate' : 'determinate'}
        value={run.things === 0 ? 100 : (run.taken / run.things) * 100}
        aria-label="Taken in so far"
        sx={{ height: 10, borderRadius: 1 }}
      />
      {run.says && (
        <p className={textCss.risk}>
          ◆ {run.says} {run.state === 'given up' ? 'Auk has stopped trying.' : 'Auk tries again by itself.'}
        </p>
      )}
      {run.job && (
        <Button variant="outlined" disabled={retry.isPending} onClick={() => retry.mutate()}>
          Try again from there
        </Button>
      )}
      <ProblemNote error={retry.error} />
    </div>
  );
}

const STATES: Record<ImportRun['state'], string> = {
  done: '✓ taken in',
  'under way': '… under way',
  'given up': '▲ left in part',
};

/** The files that were dropped last, by anyone. */
export function LatelyBrought({ open }: { open: (run: ImportRun) => void }) {
  const recent = useQuery(runsQuery);
  const columns = useMemo(() => runColumns(open), [open]);
  if (!recent.data || recent.data.length === 0) return <ProblemNote error={recent.error} />;
  return (
    <section className={css.lately}>
      <h2>Lately brought in</h2>
      <DataTable
        name="runs"
        label="Lately brought in"
        rows={recent.data}
        idOf={r => r.id}
        columns={columns}
        arrangeable={false}
      />
    </section>
  );
}

const runColumns = (open: (run: ImportRun) => void): Column<ImportRun>[] => [
  {
    id: 'file',
    head: 'File',
    width: 30,
    cell: r => (
      <Link component="button" onClick={() => open(r)}>
        {r.name}
      </Link>
    ),
  },
  { id: 'from', head: 'From', width: 16, cell: r => r.channel || 'the house' },
  { id: 'taken', head: 'Taken in', right: true, width: 10, cell: r => number(r.taken) },
  { id: 'state', head: 'State', width: 14, cell: r => STATES[r.state] },
  {
    id: 'when',
    head: 'When, by whom',
    width: 26,
    cell: r => `${moment(r.at)}${r.person && `, ${r.person}`}`,
  },
];
