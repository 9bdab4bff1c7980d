import { OrderView } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { send } from '../api.js';
import { Changes } from '../parts/Changes.js';
import { moment } from '../parts/format.js';
import { ProblemNote } from '../parts/problem.js';
import { StageMark } from '../parts/stage.js';

const KINDS: ['packer' | 'slip' | 'staff', string][] = [
  ['packer', 'for the packer'],
  ['slip', 'on the slip'],
  ['staff', 'for us only'],
];
const SHOWN = 5;

/** The buyer's words and our notes in three kinds, and tags. */
export function NotesPanel({ order: o, can }: { order: OrderView; can: boolean }) {
  const [kind, setKind] = useState<'packer' | 'slip' | 'staff'>('packer');
  const [text, setText] = useState('');
  const [confirm, setConfirm] = useState(false);
  const [tag, setTag] = useState('');
  const client = useQueryClient();
  const act = useMutation({
    mutationFn: ([path, body]: [string, object]) => send(`orders/${o.row.id}/${path}`, body),
    onSuccess: () => client.invalidateQueries(),
  });
  return (
    <section className="panel">
      <h2>Notes</h2>
      {o.note && (
        <p className="note">
          <b>The buyer:</b> {o.note}
        </p>
      )}
      {o.notes.map(n => (
        <p key={n.id} className="note">
          <b>{KINDS.find(([k]) => k === n.kind)![1]}</b>
          {n.confirm && <span className="risk"> to confirm</span>}: {n.text}{' '}
          <span className="quiet">{n.person}</span>
          {can && (
            <button
              type="button"
              className="drop-clause"
              aria-label={`Take off note ${n.text}`}
              onClick={() => act.mutate([`notes/${n.id}/remove`, {}])}
            >
              ×
            </button>
          )}
        </p>
      ))}
      {can && (
        <form
          className="noteform"
          onSubmit={e => {
            e.preventDefault();
            if (text.trim() === '') return;
            act.mutate(['notes', { kind, text, confirm }], { onSuccess: () => setText('') });
          }}
        >
          <select
            aria-label="Kind of note"
            value={kind}
            onChange={e => setKind(e.target.value as typeof kind)}
          >
            {KINDS.map(([value, words]) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </select>
          <input
            aria-label="Note"
            placeholder="a note, then Enter"
            value={text}
            onChange={e => setText(e.target.value)}
          />
          {kind === 'packer' && (
            <label className="quiet">
              <input type="checkbox" checked={confirm} onChange={e => setConfirm(e.target.checked)} /> to
              confirm
            </label>
          )}
        </form>
      )}
      <div className="tags">
        {o.row.tags.map(t => (
          <span key={t} className="tag">
            {t}
            {can && (
              <button
                type="button"
                className="drop-clause"
                aria-label={`Take off tag ${t}`}
                onClick={() => act.mutate(['tag', { tag: t, on: false }])}
              >
                ×
              </button>
            )}
          </span>
        ))}
        {can && (
          <form
            onSubmit={e => {
              e.preventDefault();
              if (tag.trim()) act.mutate(['tag', { tag, on: true }], { onSuccess: () => setTag('') });
            }}
          >
            <input
              aria-label="Tag"
              className="field"
              placeholder="add a tag"
              value={tag}
              onChange={e => setTag(e.target.value)}
            />
          </form>
        )}
      </div>
      <ProblemNote error={act.error} />
    </section>
  );
}

/** Everything that happened, newest first, with before and after. */
export function HistoryPanel({ order: o }: { order: OrderView }) {
  const [all, setAll] = useState(false);
  const events = [...o.history].reverse();
  return (
    <section className="panel">
      <h2>History</h2>
      <ul className="history">
        {(all ? events : events.slice(0, SHOWN)).map((h, i) => (
          <li key={`${h.at}${i}`}>
            <span className="quiet">{moment(h.at)}</span>
            <div>
              {h.says} {h.person && <span className="quiet">{h.person}</span>}
              <Changes changes={h.changes} currency={o.row.currency} />
            </div>
          </li>
        ))}
      </ul>
      {!all && events.length > SHOWN && (
        <Button size="small" onClick={() => setAll(true)}>
          All {count(events.length, 'event')}
        </Button>
      )}
    </section>
  );
}

/** Orders that belong to this one, and putting together what may travel as one. */
export function RelatedOrders({ order: o, can }: { order: OrderView; can: boolean }) {
  const client = useQueryClient();
  const along = o.related.filter(r => r.how === 'can travel along');
  const merge = useMutation({
    mutationFn: () => send('orders/merge', { ids: [o.row.id, ...along.map(r => r.id)] }),
    onSuccess: () => client.invalidateQueries(),
  });
  if (o.related.length === 0) return null;
  return (
    <p className="related">
      {o.related.map(r => (
        <span key={r.id + r.how}>
          {{ split: 'split with', merged: 'travels with', 'can travel along': 'could travel with' }[r.how]}{' '}
          <Link className="code" to={`/orders/${r.id}`}>
            {r.number}
          </Link>{' '}
          <StageMark stage={r.stage} />
        </span>
      ))}
      {can && along.length > 0 && (
        <Button size="small" variant="outlined" disabled={merge.isPending} onClick={() => merge.mutate()}>
          Put {along.length + 1} together
        </Button>
      )}
      <ProblemNote error={merge.error} />
    </p>
  );
}
