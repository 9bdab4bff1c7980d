import type { BatchView } from '@auk/contract';
import { count, formatMoney } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useParams } from 'react-router';
import { changed } from '../../asked.js';
import { day } from '../../parts/format.js';
import { Head } from '../../parts/Head.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { Waiting } from '../../parts/Waiting.js';
import { batchLabelsPath, batchQuery, buyBatch, stopBatch } from '../api.js';
import css from '../parcels.module.css';
import { PAPERS } from '../parts/InsideParcel.js';

type Item = BatchView['items'][number];

const WORDS: Record<Item['state'], [sign: string, words: string, tone: string]> = {
  waiting: ['○', 'waits', ''],
  priced: ['◔', 'priced', ''],
  none: ['▲', 'left out', 'stop'],
  bought: ['✓', 'bought', 'good'],
  refused: ['✕', 'refused', 'stop'],
  unanswered: ['!', 'no answer yet', 'risk'],
};

/** Labels of many parcels: priced, shown with their sum, bought with progress, each with its result. */
export default function BatchPage() {
  const { id } = useParams();
  const client = useQueryClient();
  const batch = useQuery(batchQuery(id!));
  const put = async (got: BatchView) => {
    client.setQueryData(batchQuery(id!).queryKey, got);
    await changed(client, 'parcels', 'orders');
  };
  const buy = useMutation({ mutationFn: (minor: number) => buyBatch(id!, minor), onSuccess: put });
  const stop = useMutation({ mutationFn: () => stopBatch(id!), onSuccess: put });
  const b = batch.data;
  if (!b) return <Waiting error={batch.error} />;
  const n = (state: Item['state']) => b.items.filter(i => i.state === state).length;
  const money = (minor: number) => formatMoney(minor, b.currency);
  const working = b.state === 'pricing' || b.state === 'buying';
  const all = b.items.length - n('none');
  const done = b.state === 'pricing' ? b.items.length - n('waiting') : all - n('priced');
  return (
    <>
      <Head title={`Labels for ${count(b.items.length, 'parcel')}`} tab="Labels" about={saysOf(b, n, money)}>
        {n('bought') > 0 &&
          PAPERS.map(([paper, words]) => (
            <Button
              key={paper}
              variant="outlined"
              color="secondary"
              href={batchLabelsPath(b.id, paper)}
              target="_blank"
            >
              Print {words}
            </Button>
          ))}
        {working && (
          <Button variant="outlined" color="error" disabled={stop.isPending} onClick={() => stop.mutate()}>
            Stop
          </Button>
        )}
        {!working && n('priced') > 0 && (
          <Button variant="contained" disabled={buy.isPending} onClick={() => buy.mutate(b.toBuyMinor)}>
            {`Buy ${n('priced')} for ${money(b.toBuyMinor)}`}
          </Button>
        )}
      </Head>
      <ProblemNote error={buy.error ?? stop.error} />
      {working && (
        <div
          className={css.bar}
          role="progressbar"
          aria-label="Progress"
          aria-valuemin={0}
          aria-valuemax={all}
          aria-valuenow={done}
        >
          <div style={{ width: `${(100 * done) / Math.max(1, all)}%` }} />
        </div>
      )}
      <DataTable
        name="batch"
        label="Parcels of this batch"
        rows={b.items}
        idOf={i => i.parcel}
        columns={columnsOf(b)}
        arrangeable={false}
      />
      <p className={`${textCss.quiet} ${pageCss.panel}`}>
        Each parcel gets the service that was chosen for its order, else the cheapest that arrives in time.
      </p>
    </>
  );
}

function saysOf(b: BatchView, n: (state: Item['state']) => number, money: (minor: number) => string): string {
  const parts = [
    b.state === 'pricing' && `being priced, ${n('waiting')} to go`,
    b.state === 'buying' && `being bought, ${n('priced')} to go`,
    b.state === 'stopped' && 'stopped',
    n('priced') > 0 && b.state !== 'buying' && `${n('priced')} priced at ${money(b.toBuyMinor)}`,
    n('bought') > 0 && `${n('bought')} bought for ${money(b.boughtMinor)}`,
    n('none') > 0 && `${n('none')} left out`,
    n('refused') > 0 && `${n('refused')} refused`,
    n('unanswered') > 0 && `${n('unanswered')} without an answer, found out by Auk`,
  ];
  return parts.filter(Boolean).join(' · ');
}

function columnsOf(b: BatchView): Column<Item>[] {
  const money = (minor: number | null) => minor !== null && formatMoney(minor, b.currency);
  return [
    { id: 'parcel', head: 'Parcel', cell: i => <span className={textCss.code}>{i.parcel}</span> },
    {
      id: 'order',
      head: 'Order',
      width: 12,
      cell: i => <span className={textCss.code}>{i.channelNumber}</span>,
    },
    {
      id: 'state',
      head: 'Result',
      width: 22,
      cell: i => {
        const [sign, words, tone] = WORDS[i.state];
        return (
          <>
            <span className={`${textCss.stage} ${tone && textCss[tone]}`}>
              <span aria-hidden="true">{sign}</span>
              {words}
            </span>
            {i.why && <div className={textCss.quiet}>{i.why}</div>}
          </>
        );
      },
    },
    { id: 'service', head: 'Service', width: 15, cell: i => i.service },
    {
      id: 'arrives',
      head: 'Arrives',
      width: 11,
      cell: i => (
        <>
          {i.arrives && day(i.arrives)}
          {i.keeps === false && <div className={textCss.stop}>✕ too late</div>}
        </>
      ),
    },
    { id: 'price', head: 'Price', right: true, cell: i => money(i.minor) },
    {
      id: 'margin',
      head: 'Margin',
      right: true,
      cell: i =>
        i.minor !== null &&
        i.paidMinor !== null && (
          <span className={i.paidMinor < i.minor ? textCss.stop : textCss.good}>
            {money(i.paidMinor - i.minor)}
          </span>
        ),
    },
    {
      id: 'tracking',
      head: 'Tracking',
      width: 16,
      cell: i => <span className={textCss.code}>{i.tracking}</span>,
    },
  ];
}
