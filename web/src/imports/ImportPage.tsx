import type { ImportReport } from '@auk/contract';
import { count, formatMoney } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { ask, get } from '../api.js';
import { ProblemNote } from '../parts/problem.js';
import '../orders/orders.css';

/** Bring in orders from a file: drop it, see what it would do, take the good ones. */
export default function ImportPage() {
  const [channel, setChannel] = useState('');
  const [file, setFile] = useState<File | null>(null);
  const [over, setOver] = useState(false);
  const client = useQueryClient();
  const channels = useQuery({
    queryKey: ['channels'],
    queryFn: () => get<{ code: string; name: string }[]>('channels'),
  });
  const send = (f: File, commit: 'yes' | 'no') =>
    ask<ImportReport>('POST', `imports/orders?${new URLSearchParams({ channel, name: f.name, commit })}`, f);
  const preview = useMutation({ mutationFn: (f: File) => send(f, 'no') });
  const take = useMutation({
    mutationFn: (f: File) => send(f, 'yes'),
    onSuccess: () => client.invalidateQueries(),
  });
  const look = (f: File | undefined) => {
    if (!f) return;
    setFile(f);
    take.reset();
    preview.mutate(f);
  };
  const report = take.data ?? preview.data;
  return (
    <>
      <div className="headline">
        <div className="grow">
          <h1>Bring in orders</h1>
          <p className="quiet">A CSV file with a heading. The same file twice changes nothing.</p>
        </div>
        {report && !report.committed && report.counts.new + report.counts.changed > 0 && (
          <Button variant="contained" disabled={take.isPending} onClick={() => take.mutate(file!)}>
            Bring in {count(report.counts.new + report.counts.changed, 'order')}
          </Button>
        )}
      </div>
      <label>
        From channel{' '}
        <select
          aria-label="Channel"
          value={channel}
          onChange={e => {
            setChannel(e.target.value);
            preview.reset();
            take.reset();
          }}
          style={{ font: 'inherit', padding: 6 }}
        >
          <option value="">Choose …</option>
          {channels.data?.map(c => (
            <option key={c.code} value={c.code}>
              {c.name}
            </option>
          ))}
        </select>
      </label>
      {channel !== '' && (
        <label
          className={over ? 'drop over' : 'drop'}
          style={{ display: 'block', cursor: 'pointer' }}
          onDragOver={e => {
            e.preventDefault();
            setOver(true);
          }}
          onDragLeave={() => setOver(false)}
          onDrop={e => {
            e.preventDefault();
            setOver(false);
            look(e.dataTransfer.files[0]);
          }}
        >
          <b>
            {preview.isPending ? 'Reading …' : file ? file.name : 'Drop the file here, or press to choose it'}
          </b>
          <input
            type="file"
            accept=".csv,text/csv"
            className="visually-hidden"
            aria-label="File of orders"
            onChange={e => look(e.target.files?.[0])}
          />
        </label>
      )}
      <ProblemNote error={preview.error ?? take.error} />
      {report && <Report report={report} />}
    </>
  );
}

function Report({ report }: { report: ImportReport }) {
  const { counts, bad, orders } = report;
  return (
    <>
      <p
        className={report.committed ? 'done-note' : ''}
        role="status"
        style={{ fontSize: 17, margin: '12px 0' }}
      >
        {report.committed ? 'Brought in: ' : 'This file holds '}
        <b>{counts.new} new</b>, <b>{counts.changed} changed</b>, <b>{counts.same} the same</b>,{' '}
        <b className={counts.badRows ? 'stop' : ''}>{count(counts.badRows, 'bad row')}</b>.
        {counts.cannotChange > 0 &&
          ` ${count(counts.cannotChange, 'order')} changed at the channel but cannot be changed here any more; look at them by hand.`}
        {report.committed && counts.new > 0 && (
          <>
            {' '}
            {Object.entries(report.stages)
              .map(([s, n]) => `${n} ${s}`)
              .join(', ')}
            . <Link to="/orders">See the orders</Link>
          </>
        )}
      </p>
      {bad.length > 0 && (
        <>
          <h2>Rows that cannot be brought in</h2>
          <table className="list" style={{ marginBottom: 20 }}>
            <thead>
              <tr>
                <th className="num">Row</th>
                <th>Column</th>
                <th>Value</th>
                <th>Why</th>
              </tr>
            </thead>
            <tbody>
              {bad.map(b => (
                <tr key={`${b.row}${b.column}${b.why}`}>
                  <td className="num">{b.row}</td>
                  <td>{b.column}</td>
                  <td className="code">{b.value}</td>
                  <td>{b.why}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
      {orders.length > 0 && (
        <>
          <h2>Orders</h2>
          <table className="list">
            <thead>
              <tr>
                <th>Order</th>
                <th>Buyer</th>
                <th className="num">Lines</th>
                <th className="num">Units</th>
                <th className="num">Total</th>
                <th>What happens</th>
              </tr>
            </thead>
            <tbody>
              {orders.map(o => (
                <tr key={o.channelNumber}>
                  <td className="code">{o.channelNumber}</td>
                  <td>{o.buyer}</td>
                  <td className="num">{o.lines}</td>
                  <td className="num">{o.units}</td>
                  <td className="num">{formatMoney(o.totalMinor, o.currency)}</td>
                  <td>{o.state === 'same' ? 'is here already' : o.state}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </>
  );
}
