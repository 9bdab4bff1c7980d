import { OrderView } from '@auk/contract';
import { count } from '@auk/core';
import Close from '@mui/icons-material/Close';
import Button from '@mui/material/Button';
import Chip from '@mui/material/Chip';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { changed } from '../../asked.js';
import { Changes } from '../../parts/Changes.js';
import { Choice } from '../../parts/Choice.js';
import { Drop } from '../../parts/Drop.js';
import { Form } from '../../parts/Form.js';
import { moment } from '../../parts/format.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { StageMark } from '../../parts/stage.js';
import { Tick } from '../../parts/Tick.js';
import textCss from '../../parts/text.module.css';
import { actOnOrder, mergeOrders } from '../api.js';
import css from '../orders.module.css';

const KINDS: readonly (readonly ['packer' | 'slip' | 'staff', string])[] = [
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
  const [word, setWord] = useState('');
  const [tag, setTag] = useState('');
  const client = useQueryClient();
  const act = useMutation({
    mutationFn: ([path, body]: [string, object]) => actOnOrder(o.row.id, path, body),
    onSuccess: () => changed(client, 'orders', 'stock', 'lists', 'parcels'),
  });
  return (
    <section className={pageCss.panel}>
      <h2>Notes</h2>
      {o.note && (
        <p className={css.note} data-part="note">
          <b>The buyer:</b> {o.note}
        </p>
      )}
      {o.notes.map(n => (
        <p key={n.id} className={css.note} data-part="note">
          <b>{KINDS.find(([k]) => k === n.kind)![1]}</b>
          {n.confirm && <span className={textCss.risk}> to confirm{n.word && ` by typing “${n.word}”`}</span>}
          : {n.text} <span className={textCss.quiet}>{n.person}</span>
          {can && (
            <Drop label={`Take off note ${n.text}`} onDrop={() => act.mutate([`notes/${n.id}/remove`, {}])} />
          )}
        </p>
      ))}
      {can && (
        <Form
          className={css.noteform}
          ready={text.trim() !== ''}
          onSend={() =>
            act.mutate(['notes', { kind, text, confirm, word }], { onSuccess: () => setText('') })
          }
        >
          <Choice bare label="Kind of note" value={kind} options={KINDS} onChoose={setKind} />
          <Line bare label="Note" placeholder="a note, then Enter" value={text} onType={setText} />
          {kind === 'packer' && <Tick label="to confirm" checked={confirm} onTick={setConfirm} />}
          {kind === 'packer' && confirm && (
            <>
              <Line
                bare
                label="By typing the word"
                placeholder="a word to type, if any"
                value={word}
                onType={setWord}
              />
              <Button type="submit" size="small" disabled={text.trim() === ''}>
                Add
              </Button>
            </>
          )}
        </Form>
      )}
      <div className={css.tags}>
        {o.row.tags.map(t => (
          <Chip
            key={t}
            label={t}
            {...(can && {
              onDelete: () => act.mutate(['tag', { tag: t, on: false }]),
              deleteIcon: <Close aria-label={`Take off tag ${t}`} role="button" />,
            })}
          />
        ))}
        {can && (
          <Form
            ready={tag.trim() !== ''}
            onSend={() => act.mutate(['tag', { tag, on: true }], { onSuccess: () => setTag('') })}
          >
            <Line bare width={8} label="Tag" placeholder="add a tag" value={tag} onType={setTag} />
          </Form>
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
    <section className={pageCss.panel}>
      <h2>History</h2>
      <ul className={pageCss.history} data-part="history">
        {(all ? events : events.slice(0, SHOWN)).map((h, i) => (
          <li key={`${h.at}${i}`}>
            <span className={textCss.quiet}>{moment(h.at)}</span>
            <div>
              {h.says} {h.person && <span className={textCss.quiet}>{h.person}</span>}
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
  // Cancelled parts are not waited for.
  const parts = o.related.filter(r => r.how === 'split' && r.stage !== 'Cancelled').map(r => r.stage);
  const split = parts.length > 0 ? [o.row.stage, ...parts] : [];
  const along = o.related.filter(r => r.how === 'can travel along');
  const merge = useMutation({
    mutationFn: () => mergeOrders([o.row.id, ...along.map(r => r.id)]),
    onSuccess: () => changed(client, 'orders', 'stock', 'lists', 'parcels'),
  });
  if (o.related.length === 0) return null;
  return (
    <div className={css.related} data-part="related">
      {split.length > 1 && (
        <b>
          {split.filter(s => s === 'Departed').length} of {split.length} departed
        </b>
      )}
      {o.related.map(r => (
        <span key={r.id + r.how}>
          {{ split: 'split with', merged: 'travels with', 'can travel along': 'could travel with' }[r.how]}{' '}
          <Link className={textCss.code} to={`/orders/${r.id}`}>
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
    </div>
  );
}
