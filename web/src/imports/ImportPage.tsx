import { ChannelView, ImportKind, ImportReport } from '@auk/contract';
import { count, type Mapping } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { download, get, post } from '../api.js';
import { Changes } from '../parts/Changes.js';
import { ProblemNote } from '../parts/problem.js';
import './imports.css';

/** What can be brought in: its words, whether it is a channel's, and what the file is about. */
const KINDS: Record<ImportKind, { words: string; ofChannel: boolean; hint: string; thing: string }> = {
  orders: {
    words: 'Orders',
    ofChannel: true,
    thing: 'order',
    hint: 'One row a line; rows of one number are one order. The same file twice changes nothing.',
  },
  products: {
    words: 'Products',
    ofChannel: false,
    thing: 'product',
    hint: 'One row a product. Filled cells change it, empty ones leave it, “none” empties a field.',
  },
  listings: {
    words: 'Listings',
    ofChannel: true,
    thing: 'listing',
    hint: 'One row a listing, with our SKU where it is to be linked.',
  },
  recipes: {
    words: 'Recipes',
    ofChannel: false,
    thing: 'recipe',
    hint: 'One row a part of a kit or bundle. A changed recipe is a new version; orders that are here keep theirs.',
  },
  stock: {
    words: 'Counted stock',
    ofChannel: false,
    thing: 'place',
    hint: 'One row a product and a bin: what was counted there.',
  },
  places: {
    words: 'Places',
    ofChannel: false,
    thing: 'place',
    hint: 'One row a place: the code on its shelf; one like A-07-2 also tells aisle A, bay 7, level 2. Kinds: pick face, reserve, dock, staging, bench, quarantine.',
  },
  purchases: {
    words: 'Purchase orders',
    ofChannel: false,
    thing: 'order',
    hint: 'One row a line; rows of one supplier and reference are one order. One that is here already stays as it is.',
  },
};

/** Bring in a file: drop it, say which column is what, see what it would do, take the good rows. */
export default function ImportPage() {
  const [params, setParams] = useSearchParams();
  const kind = (params.get('kind') ?? 'orders') as ImportKind;
  const about = KINDS[kind] ?? KINDS.orders;
  const [channel, setChannel] = useState(params.get('channel') ?? '');
  const [file, setFile] = useState<File | null>(null);
  const [mapping, setMapping] = useState<Mapping | null>(null);
  const [over, setOver] = useState(false);
  const client = useQueryClient();
  const channels = useQuery({ queryKey: ['channels'], queryFn: () => get(ChannelView.array(), 'channels') });
  const path = (f: File, commit: 'yes' | 'no', m: Mapping | null, more = '') =>
    `imports/${kind}${more}?${new URLSearchParams({ channel: about.ofChannel ? channel : 'house', name: f.name, commit, ...(m ? { mapping: JSON.stringify(m) } : {}) })}`;
  const preview = useMutation({
    mutationFn: ([f, m]: [File, Mapping | null]) => post(ImportReport, path(f, 'no', m), f),
  });
  const take = useMutation({
    mutationFn: (f: File) => post(ImportReport, path(f, 'yes', mapping), f),
    onSuccess: () => client.invalidateQueries(),
  });
  const bad = useMutation({
    mutationFn: (f: File) =>
      download(path(f, 'no', mapping, '/bad'), f, `mend ${f.name.replace(/\.\w+$/, '')}.csv`),
  });
  const reset = () => {
    preview.reset();
    take.reset();
    setFile(null);
    setMapping(null);
  };
  const look = (f: File | undefined, m: Mapping | null) => {
    if (!f) return;
    setFile(f);
    setMapping(m);
    take.reset();
    preview.mutate([f, m]);
  };
  const report = take.data ?? preview.data;
  const coming = report ? report.counts.new + report.counts.changed : 0;
  return (
    <>
      <div className="headline">
        <div className="grow">
          <h1>Bring in</h1>
          <p className="quiet">
            {about.hint} CSV or XLSX, heading first.{' '}
            <Link to="/setup/channels">Channels are asked by themselves.</Link>
          </p>
        </div>
        {report && !report.committed && coming > 0 && (
          <Button variant="contained" disabled={take.isPending} onClick={() => take.mutate(file!)}>
            {take.isPending ? 'Bringing in …' : `Bring in ${count(coming, about.thing)}`}
          </Button>
        )}
      </div>
      <div className="row" style={{ gap: 16, flexWrap: 'wrap' }}>
        <fieldset className="kinds" aria-label="What">
          {(Object.keys(KINDS) as ImportKind[]).map(k => (
            <button
              key={k}
              type="button"
              className={k === kind ? 'here' : ''}
              aria-pressed={k === kind}
              onClick={() => {
                reset();
                setParams({ kind: k }, { replace: true });
              }}
            >
              {KINDS[k].words}
            </button>
          ))}
        </fieldset>
        {about.ofChannel && (
          <label>
            From channel{' '}
            <select
              aria-label="Channel"
              value={channel}
              onChange={e => {
                reset();
                setChannel(e.target.value);
              }}
            >
              <option value="">Choose …</option>
              {channels.data?.map(c => (
                <option key={c.code} value={c.code}>
                  {c.name}
                </option>
              ))}
            </select>
          </label>
        )}
      </div>
      {(channel !== '' || !about.ofChannel) && (
        <label
          className={over ? 'drop over' : file ? 'drop small' : 'drop'}
          onDragOver={e => {
            e.preventDefault();
            setOver(true);
          }}
          onDragLeave={() => setOver(false)}
          onDrop={e => {
            e.preventDefault();
            setOver(false);
            look(e.dataTransfer.files[0], null);
          }}
        >
          <b>
            {preview.isPending
              ? 'Reading …'
              : file
                ? `${file.name} — drop another`
                : 'Drop the file here, or press to choose it'}
          </b>
          <input
            type="file"
            accept=".csv,.tsv,.txt,.xlsx,text/csv,application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
            className="visually-hidden"
            aria-label="File"
            onChange={e => {
              look(e.target.files?.[0], null);
              e.target.value = '';
            }}
          />
        </label>
      )}
      <ProblemNote error={preview.error ?? take.error ?? bad.error} />
      {report && (
        <div className="importview">
          <div>
            <Report report={report} thing={about.thing} mend={() => bad.mutate(file!)} />
          </div>
          <ColumnsOfFile
            report={report}
            change={(field, at) => {
              const next = { ...report.mapping };
              for (const [f, column] of Object.entries(next)) if (column === at) delete next[f];
              if (at === -1) delete next[field];
              else next[field] = at;
              look(file!, next);
            }}
          />
        </div>
      )}
    </>
  );
}

const STATE: Record<string, [shape: string, words: string, tone: string]> = {
  new: ['+', 'new', 'good'],
  changed: ['≠', 'changed', 'tide'],
  same: ['=', 'the same', ''],
  'cannot change': ['✕', 'left as it is', 'stop'],
};

function Report({ report, thing, mend }: { report: ImportReport; thing: string; mend: () => void }) {
  const { counts, bad, rows } = report;
  return (
    <>
      <p
        className={report.committed ? 'done-note' : ''}
        role="status"
        style={{ fontSize: 17, margin: '12px 0' }}
      >
        {report.missing.length > 0 ? (
          <>
            The file has no column for <b>{report.missing.join(', ')}</b>. Say beside which column holds it.
          </>
        ) : (
          <>
            {report.committed ? 'Brought in: ' : 'This file holds '}
            <b>{counts.new} new</b>, <b>{counts.changed} changed</b>, <b>{counts.same} the same</b>,{' '}
            <b className={counts.badRows ? 'stop' : ''}>{count(counts.badRows, 'bad row')}</b>.
            {counts.cannotChange > 0 &&
              ` ${count(counts.cannotChange, thing)} cannot be changed here any more.`}
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
        )}
      </p>
      {bad.length > 0 && (
        <>
          <div className="row">
            <h2>Rows that are left out</h2>
            <Button size="small" variant="outlined" onClick={mend}>
              Save {count(counts.leftOut, 'row')} to mend
            </Button>
          </div>
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
      {rows.length > 0 && (
        <table className="list">
          <thead>
            <tr>
              <th className="num">Row</th>
              <th>What</th>
              <th>What happens</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(r => {
              const [shape, words, tone] = STATE[r.state]!;
              return (
                <tr key={`${r.row} ${r.name}`}>
                  <td className="num">{r.row}</td>
                  <td>
                    <span className="code">{r.name}</span>
                    <div className="quiet">{r.about}</div>
                  </td>
                  <td>
                    <span className={tone}>
                      <span aria-hidden="true">{shape}</span> {words}
                    </span>{' '}
                    <span className="quiet">{r.says}</span>
                    {r.state !== 'new' && <Changes changes={r.changes} />}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
    </>
  );
}

/** Which column of the file fills which field: a guess that a person corrects, and that is remembered for this source. */
function ColumnsOfFile({
  report,
  change,
}: {
  report: ImportReport;
  change: (field: string, at: number) => void;
}) {
  return (
    <aside className="mapping">
      <h2>Columns</h2>
      <p className="quiet">
        {report.remembered ? 'As the last file from here.' : 'Guessed by their headings.'} Correct what is
        wrong; it is remembered.
      </p>
      {report.fields.map(f => (
        <label key={f.field} className={f.required && report.mapping[f.field] === undefined ? 'stop' : ''}>
          <span>
            {f.words}
            {f.required && ' *'}
          </span>
          <select
            aria-label={`Column for ${f.words}`}
            value={report.mapping[f.field] ?? -1}
            disabled={report.committed}
            onChange={e => change(f.field, Number(e.target.value))}
          >
            <option value={-1}>—</option>
            {report.headings.map((h, i) => (
              <option key={i} value={i}>
                {h || `column ${i + 1}`}
              </option>
            ))}
          </select>
        </label>
      ))}
    </aside>
  );
}
