import type { ImportReport } from '@auk/contract';
import { type Change, count } from '@auk/core';
import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { Changes } from '../../parts/Changes.js';
import pageCss from '../../parts/page.module.css';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { useCurrency } from '../../setup/useCurrency.js';
import css from '../imports.module.css';

/** Changes of what the house keeps, in its own currency. */
function Changed({ changes }: { changes: readonly Change[] }) {
  return <Changes changes={changes} currency={useCurrency()} />;
}

interface Props {
  report: ImportReport;
  /** What a row of the file is about. */
  thing: string;
  /** Saves the rows that are left out, to be mended. */
  mend: (() => void) | null;
}

/** What a file holds, or what became of it: in one sentence, then the rows that are left out, then all. */
export function Report({ report, thing, mend }: Props) {
  const { counts, bad, rows } = report;
  return (
    <>
      <p className={css.sum} role="status">
        <Sum report={report} thing={thing} />
      </p>
      {bad.length > 0 && (
        <section>
          <div className={pageCss.row}>
            <h2>Rows that are left out</h2>
            {mend && (
              <Button size="small" variant="outlined" color="secondary" onClick={mend}>
                Save {count(counts.leftOut, 'row')} to mend
              </Button>
            )}
          </div>
          <DataTable
            name="bad-rows"
            label="Rows that are left out"
            rows={bad}
            idOf={b => `${b.row}${b.column}${b.why}`}
            columns={BAD}
            arrangeable={false}
          />
        </section>
      )}
      {rows.length > 0 && (
        <DataTable
          name="file-rows"
          label="Rows of the file"
          rows={rows}
          idOf={r => `${r.row} ${r.name}`}
          columns={ROWS}
          arrangeable={false}
        />
      )}
    </>
  );
}

function Sum({ report, thing }: { report: ImportReport; thing: string }) {
  const { counts, missing } = report;
  if (missing.length > 0)
    return (
      <>
        The file has no column for <b>{missing.join(', ')}</b>. Say beside which column holds it.
      </>
    );
  return (
    <>
      {report.committed ? '✓ Brought in: ' : 'This file holds '}
      <b>{counts.new} new</b>, <b>{counts.changed} changed</b>, <b>{counts.same} the same</b>,{' '}
      <b className={counts.badRows ? textCss.stop : ''}>{count(counts.badRows, 'bad row')}</b>.
      {counts.cannotChange > 0 && ` ${count(counts.cannotChange, thing)} cannot be changed here any more.`}
      {report.committed && counts.new > 0 && report.kind === 'orders' && (
        <>
          {' '}
          {Object.entries(report.stages)
            .map(([s, n]) => `${n} ${s}`)
            .join(', ')}
          . <Link to="/orders">See the orders</Link>
        </>
      )}
    </>
  );
}

const BAD: Column<ImportReport['bad'][number]>[] = [
  { id: 'row', head: 'Row', right: true, width: 5, cell: b => b.row },
  { id: 'column', head: 'Column', width: 14, cell: b => b.column },
  { id: 'value', head: 'Value', width: 16, cell: b => <span className={textCss.code}>{b.value}</span> },
  { id: 'why', head: 'Why', width: 40, cell: b => b.why },
];

const STATE: Record<string, [shape: string, words: string, tone: string | undefined]> = {
  new: ['+', 'new', textCss.good],
  changed: ['≠', 'changed', textCss.tide],
  same: ['=', 'the same', undefined],
  'cannot change': ['✕', 'left as it is', textCss.stop],
};

const ROWS: Column<ImportReport['rows'][number]>[] = [
  { id: 'row', head: 'Row', right: true, width: 5, cell: r => r.row },
  {
    id: 'what',
    head: 'What',
    width: 30,
    cell: r => (
      <>
        <span className={textCss.code}>{r.name}</span>
        <div className={textCss.quiet}>{r.about}</div>
      </>
    ),
  },
  {
    id: 'happens',
    head: 'What happens',
    width: 40,
    cell: r => {
      const [shape, words, tone] = STATE[r.state]!;
      return (
        <>
          <span className={tone}>
            <span aria-hidden="true">{shape}</span> {words}
          </span>{' '}
          <span className={textCss.quiet}>{r.says}</span>
          {r.state !== 'new' && <Changed changes={r.changes} />}
        </>
      );
    },
  },
];
