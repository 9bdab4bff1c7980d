import type { DryRunView } from '@auk/contract';
import { count, formatMoney, type RuleBook } from '@auk/core';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { v7 } from 'uuid';
import { Choice } from '../../parts/Choice.js';
import { ProblemNote } from '../../parts/problem.js';
import sentenceCss from '../../parts/sentence.module.css';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { askDryRun, dryRunQuery, stopDryRun } from '../api.js';
import css from '../rules.module.css';

interface Props {
  book: RuleBook;
  /** The rule that is open, to be tried alone. */
  rule: { id: string; no: number } | null;
  id: string | null;
  onAsked: (id: string) => void;
}

const ON = [
  ['open', 'all open orders'],
  ['50', 'the last 50 orders'],
  ['200', 'the last 200 orders'],
  ['1000', 'the last 1,000 orders'],
] as const;
type On = (typeof ON)[number][0];

/** The book, or one rule of it, tried on real orders: what would be otherwise, and what it would cost. */
export function DryRunPanel({ book, rule, id, onAsked }: Props) {
  const [on, setOn] = useState<On>('open');
  const [alone, setAlone] = useState<'book' | 'rule'>('book');
  const run = useQuery({ ...dryRunQuery(id ?? ''), enabled: id !== null });
  const ask = useMutation({
    mutationFn: () =>
      askDryRun({
        id: v7(),
        book: book as never,
        rule: alone === 'rule' ? (rule?.id ?? null) : null,
        on: on === 'open' ? { open: true } : { last: Number(on) },
      }),
    onSuccess: view => onAsked(view.id),
  });
  const stop = useMutation({ mutationFn: stopDryRun, onSuccess: () => run.refetch() });
  const view = run.data;
  const running = view?.state === 'waiting' || view?.state === 'running';
  return (
    <section aria-label="Dry run">
      <h2 className={`${sentenceCss.sentence} ${sentenceCss.small}`}>
        Try{' '}
        {rule ? (
          <Choice
            inSentence
            label="What is tried"
            value={alone}
            options={[
              ['book', 'this book'],
              ['rule', `rule ${rule.no} alone`],
            ]}
            onChoose={setAlone}
          />
        ) : (
          'this book'
        )}{' '}
        on <Choice inSentence label="Which orders" value={on} options={ON} onChoose={setOn} />{' '}
        <Button
          size="small"
          variant="outlined"
          disabled={ask.isPending || running}
          onClick={() => ask.mutate()}
        >
          Try it
        </Button>
      </h2>
      <p className={textCss.quiet}>Nothing is changed, and no carrier is asked.</p>
      <ProblemNote error={ask.error ?? run.error} />
      {view && running && (
        <div aria-live="polite">
          <LinearProgress
            variant="determinate"
            aria-label="How far the dry run is"
            value={view.total === 0 ? 0 : (100 * view.done) / view.total}
          />
          {view.done} of {count(view.total, 'order')}{' '}
          <Button size="small" onClick={() => stop.mutate(view.id)}>
            Stop
          </Button>
        </div>
      )}
      {view?.result && <Found result={view.result} stopped={view.state === 'stopped'} />}
    </section>
  );
}

function Found({ result: r, stopped }: { result: NonNullable<DryRunView['result']>; stopped: boolean }) {
  const money = (minor: number) => formatMoney(minor, r.currency);
  const more = r.costAfterMinor - r.costBeforeMinor;
  return (
    <>
      <div className={css.figures}>
        <span>
          <b>{r.changed}</b>
          <small>
            of {count(r.orders, 'order')} would change{stopped ? ', stopped on the way' : ''}
          </small>
        </span>
        <span>
          <b className={more < 0 ? textCss.good : more > 0 ? textCss.risk : ''}>{signed(more, money)}</b>
          <small>
            labels: {money(r.costAfterMinor)} instead of {money(r.costBeforeMinor)}
          </small>
        </span>
        {r.unpriced > 0 && (
          <span>
            <b>{r.unpriced}</b>
            <small>without a known price, in neither sum</small>
          </span>
        )}
      </div>
      {r.rows.length > 0 && <Changes rows={r.rows} money={money} />}
      {r.changed > r.rows.length && (
        <p className={textCss.quiet}>The first {r.rows.length} of them are listed.</p>
      )}
    </>
  );
}

const signed = (minor: number, money: (n: number) => string): string =>
  minor === 0 ? '±0' : `${minor > 0 ? '+' : '−'}${money(Math.abs(minor))}`;

type Row = NonNullable<DryRunView['result']>['rows'][number];

/** Money has its own column, so that the sum above can be followed. */
function Changes({ rows, money }: { rows: Row[]; money: (n: number) => string }) {
  const columns: Column<Row>[] = [
    {
      id: 'order',
      head: 'Order',
      width: 9,
      cell: row => (
        <Link className={`${textCss.code} ${textCss.name}`} to={`/orders/${row.id}`}>
          {row.number}
        </Link>
      ),
    },
    { id: 'change', head: 'Before and after', width: 16, cell: row => <Change row={row} /> },
    { id: 'label', head: 'Label', right: true, width: 7, cell: row => costWords(row, money) },
    {
      id: 'by',
      head: 'Decided by',
      width: 12,
      cell: row => [...new Set(row.fields.flatMap(f => f.rule ?? []))].join(', '),
    },
  ];
  return (
    <DataTable
      name="dry-run"
      label="Orders that would change"
      rows={rows}
      idOf={row => row.id}
      columns={columns}
      to={row => `/orders/${row.id}`}
      arrangeable={false}
    />
  );
}

const costWords = (
  { costBeforeMinor: before, costAfterMinor: after }: Row,
  money: (n: number) => string,
): string => (before === null || after === null ? 'unknown' : signed(after - before, money));

function Change({ row }: { row: Row }) {
  return (
    <div className={css.change}>
      {row.fields.map(f => (
        <div key={f.field}>
          {f.words}: {f.before && <del>{f.before}</del>} <ins>{f.after ?? 'nothing'}</ins>
        </div>
      ))}
      {row.more.map(m => (
        <ins key={m}>{m}</ins>
      ))}
      {row.less.map(m => (
        <del key={m}>{m}</del>
      ))}
    </div>
  );
}
