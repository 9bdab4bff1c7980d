import { can, type PrintJobRow } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { changed } from '../../asked.js';
import { Choice, type Options } from '../../parts/Choice.js';
import { moment } from '../../parts/format.js';
import { Head } from '../../parts/Head.js';
import { ProblemNote } from '../../parts/problem.js';
import { say } from '../../parts/say.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { useMe } from '../../people/useMe.js';
import { SetupNav } from '../../setup/parts/SetupNav.js';
import { benchesQuery, printAgain, trayQuery } from '../api.js';

/** What waits for each printer and what came out of it; every paper can be printed again. */
export default function TrayPage() {
  const [printer, setPrinter] = useState('');
  const printers = useQuery(benchesQuery).data?.printers ?? [];
  const tray = useQuery(trayQuery(printer));
  const rows = tray.data ?? [];
  const waiting = rows.filter(r => r.state === 'waiting').length;
  const options: Options = [['', 'every printer'], ...printers.map(p => [p.id, p.name] as const)];
  return (
    <>
      <SetupNav />
      <Head
        title="Print tray"
        about={
          waiting > 0
            ? `${count(waiting, 'paper')} waiting. What waits is tried again by itself; nothing is lost.`
            : 'Nothing waits. What came out stays here, to be printed again.'
        }
      >
        <Choice label="Of" value={printer} options={options} onChoose={setPrinter} />
      </Head>
      <ProblemNote error={tray.error} />
      <DataTable
        name="print-tray"
        label="Print tray"
        rows={rows}
        idOf={r => r.id}
        columns={COLUMNS}
        arrangeable={false}
        empty={tray.isSuccess && 'Nothing was printed yet. Slips and labels come here as orders are packed.'}
      />
    </>
  );
}

const NAMES: Record<PrintJobRow['kind'], string> = {
  label: 'Label',
  slip: 'Packing slip',
  invoice: 'Invoice',
  customs: 'Papers abroad',
  unit: 'Unit labels',
};

function State({ job }: { job: PrintJobRow }) {
  if (job.state === 'printed')
    return (
      <>
        ✓ printed{job.copies > 1 ? ` ${job.copies} times` : ''}
        <div className={textCss.quiet}>{job.printedAt && moment(job.printedAt)}</div>
      </>
    );
  return (
    <span className={job.why ? textCss.stop : undefined}>
      {job.why ? '▲ waits' : 'on its way'}
      {job.why && <div>{job.why}</div>}
    </span>
  );
}

function Again({ job }: { job: PrintJobRow }) {
  const client = useQueryClient();
  const may = can(useMe(), 'labels.print');
  const again = useMutation({
    mutationFn: () => printAgain(job.id),
    onSuccess: async () => {
      say(job.state === 'waiting' ? 'It is tried now.' : 'It is printed once more.');
      await changed(client, 'prints');
    },
  });
  return (
    <>
      <Button
        size="small"
        variant="outlined"
        color="secondary"
        disabled={!may || again.isPending}
        onClick={() => again.mutate()}
      >
        {job.state === 'waiting' ? 'Try now' : 'Print again'}
      </Button>
      <ProblemNote error={again.error} />
    </>
  );
}

const COLUMNS: Column<PrintJobRow>[] = [
  { id: 'kind', head: 'Paper', width: 11, cell: r => NAMES[r.kind] },
  { id: 'what', head: 'Of', width: 18, cell: r => <span className={textCss.code}>{r.what}</span> },
  { id: 'printer', head: 'Printer', width: 14, cell: r => r.printer },
  { id: 'bench', head: 'From', width: 10, cell: r => r.bench ?? '' },
  { id: 'at', head: 'Asked for', width: 13, cell: r => moment(r.at) },
  { id: 'state', head: 'State', width: 22, cell: r => <State job={r} /> },
  { id: 'again', head: '', width: 10, cell: r => <Again job={r} /> },
];
