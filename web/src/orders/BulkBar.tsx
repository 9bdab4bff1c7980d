import { BulkAnswer, MadeId, MadeNo } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { post } from '../api.js';
import { Ask } from '../parts/ask.js';
import { ProblemNote } from '../parts/problem.js';

type Act = 'park' | 'unpark' | 'cancel' | 'star' | 'unstar' | 'tag' | 'untag' | 'paid';
/** Acts on many orders: their words, and what must be typed first. */
const ACTS: [act: Act, words: string, typed: string | null][] = [
  ['park', 'Park', 'Why'],
  ['unpark', 'Unpark', null],
  ['star', 'Star', null],
  ['tag', 'Tag', 'Tag'],
  ['untag', 'Take tag off', 'Tag'],
  ['paid', 'Set as paid', null],
  ['cancel', 'Cancel orders', 'Why'],
];

/** What can be done with the orders that are chosen; each order gives its own answer. */
export function BulkBar({
  chosen,
  clear,
  canList,
}: {
  chosen: ReadonlySet<string>;
  clear: () => void;
  canList: boolean;
}) {
  const [asking, setAsking] = useState<(typeof ACTS)[number] | null>(null);
  const [text, setText] = useState('');
  const client = useQueryClient();
  const act = useMutation({
    mutationFn: (what: Act) =>
      post(BulkAnswer.array(), 'orders/bulk', { ids: [...chosen].slice(0, 500), act: what, text }),
    onSuccess: () => {
      setAsking(null);
      setText('');
      void client.invalidateQueries();
    },
  });
  if (chosen.size === 0 && !act.data) return null;
  const refused = act.data?.filter(a => !a.done) ?? [];
  return (
    <section className="bulk" aria-label="Chosen orders">
      {chosen.size > 0 && (
        <div className="row" style={{ gap: 8, flexWrap: 'wrap' }}>
          <b>{count(chosen.size, 'order')} chosen</b>
          {canList && <MakeList chosen={[...chosen]} made={clear} />}
          {ACTS.map(a => (
            <Button
              key={a[0]}
              size="small"
              color={a[0] === 'cancel' ? 'error' : 'primary'}
              onClick={() => (a[2] ? setAsking(a) : act.mutate(a[0]))}
            >
              {a[1]}
            </Button>
          ))}
          <Merge chosen={[...chosen]} done={clear} />
          <Button size="small" onClick={clear}>
            Choose none
          </Button>
        </div>
      )}
      {act.data && (
        <div role="status">
          <p>
            {act.data.length - refused.length} of {count(act.data.length, 'order')} done.{' '}
            <Button size="small" onClick={() => act.reset()}>
              Close
            </Button>
          </p>
          <ul className="answers">
            {act.data.map(a => (
              <li key={a.id} className={a.done ? '' : 'stop'}>
                <Link className="code" style={{ color: 'inherit' }} to={`/orders/${a.id}`}>
                  {a.number}
                </Link>{' '}
                {a.done ? '✓' : '✕'} {a.says}
              </li>
            ))}
          </ul>
        </div>
      )}
      {!asking && <ProblemNote error={act.error} />}
      {asking && (
        <Ask
          title={`${asking[1]}: ${count(chosen.size, 'order')}`}
          act={asking[1]}
          danger={asking[0] === 'cancel'}
          ready={text.trim() !== ''}
          busy={act.isPending}
          error={act.error}
          onLeave={() => setAsking(null)}
          onAct={() => act.mutate(asking[0])}
        >
          <TextField
            label={asking[2]}
            fullWidth
            autoFocus
            margin="dense"
            value={text}
            onChange={e => setText(e.target.value)}
          />
        </Ask>
      )}
    </section>
  );
}

function MakeList({ chosen, made }: { chosen: string[]; made: () => void }) {
  const navigate = useNavigate();
  const client = useQueryClient();
  const make = useMutation({
    mutationFn: () => post(MadeNo, 'picking/lists', { orderIds: chosen }),
    onSuccess: ({ no }) => {
      made();
      void client.invalidateQueries();
      void navigate(`/pick/${no}`);
    },
  });
  return (
    <>
      <Button variant="contained" size="small" disabled={make.isPending} onClick={() => make.mutate()}>
        Make pick list of {chosen.length}
      </Button>
      <ProblemNote error={make.error} />
    </>
  );
}

function Merge({ chosen, done }: { chosen: string[]; done: () => void }) {
  const navigate = useNavigate();
  const client = useQueryClient();
  const merge = useMutation({
    mutationFn: () => post(MadeId, 'orders/merge', { ids: chosen }),
    onSuccess: ({ id }) => {
      done();
      void client.invalidateQueries();
      void navigate(`/orders/${id}`);
    },
  });
  if (chosen.length < 2 || chosen.length > 20) return null;
  return (
    <>
      <Button size="small" disabled={merge.isPending} onClick={() => merge.mutate()}>
        Put together
      </Button>
      <ProblemNote error={merge.error} />
    </>
  );
}
