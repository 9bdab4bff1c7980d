import { BulkAnswer, can } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { changed } from '../../asked.js';
import { pressButton } from '../../parts/api.js';
import { Ask } from '../../parts/ask.js';
import { Choice } from '../../parts/Choice.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { type ManyState, useMany } from '../../parts/useMany.js';
import { useMe } from '../../people/useMe.js';
import { makeList } from '../../picking/api.js';
import { parcelTemplatesQuery, sendAs } from '../../rating/api.js';
import { runAgain } from '../../rules/api.js';
import Buttons from '../../rules/parts/Buttons.js';
import { usePressTarget } from '../../rules/target.js';
import { actOnMany, mergeOrders } from '../api.js';

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
/** So many orders go in one request; between two the act can be stopped. */
const PORTION = 50;

interface Props {
  chosen: ReadonlySet<string>;
  clear: () => void;
  canList: boolean;
}

/** What can be done with the orders that are chosen; each order gives its own answer. */
export function BulkBar({ chosen, clear, canList }: Props) {
  const [asking, setAsking] = useState<(typeof ACTS)[number] | null>(null);
  const client = useQueryClient();
  const mayRun = can(useMe(), 'rules.run');
  const many = useMany<BulkAnswer>(PORTION);
  const act = async (what: Act, text: string) => {
    setAsking(null);
    await many.run([...chosen], ids => actOnMany({ ids, act: what, text }));
    await changed(client, 'orders', 'stock', 'lists', 'parcels');
  };
  const busy = many.state?.running ?? false;
  const press = async (code: string) => {
    await many.run([...chosen], ids => pressButton(code, ids));
    await changed(client, 'orders', 'rules');
  };
  usePressTarget(chosen.size > 0 && !busy ? code => void press(code) : null);
  if (chosen.size === 0 && !many.state) return null;
  return (
    <section className={pageCss.bulk} aria-label="Chosen orders">
      {chosen.size > 0 && (
        <div className={pageCss.row} style={{ gap: 8, flexWrap: 'wrap' }}>
          <b>{count(chosen.size, 'order')} chosen</b>
          {canList && <MakeList chosen={[...chosen]} made={clear} />}
          {ACTS.map(a => (
            <Button
              key={a[0]}
              size="small"
              disabled={busy}
              color={a[0] === 'cancel' ? 'error' : 'primary'}
              onClick={() => (a[2] ? setAsking(a) : void act(a[0], ''))}
            >
              {a[1]}
            </Button>
          ))}
          <Merge chosen={[...chosen]} done={clear} />
          <ReadyMade
            busy={busy}
            use={async id => {
              await many.run([...chosen], ids => sendAs(id, ids));
              await changed(client, 'orders', 'parcels');
            }}
          />
          {mayRun && (
            <Button
              size="small"
              disabled={busy}
              onClick={async () => {
                await many.run([...chosen], runAgain);
                await changed(client, 'orders', 'rules');
              }}
            >
              Run the rules
            </Button>
          )}
          <Buttons place="list" disabled={busy} onPress={code => void press(code)} />
          <Button size="small" onClick={clear}>
            Choose none
          </Button>
        </div>
      )}
      {many.state && <Answers state={many.state} stop={many.stop} close={many.close} />}
      {asking && (
        <AskText
          key={asking[0]}
          act={asking}
          orders={chosen.size}
          leave={() => setAsking(null)}
          done={text => void act(asking[0], text)}
        />
      )}
    </section>
  );
}

/** Lets the chosen orders leave as a parcel template says. */
function ReadyMade({ busy, use }: { busy: boolean; use: (id: string) => Promise<void> }) {
  const may = can(useMe(), 'labels.choose');
  const templates = useQuery({ ...parcelTemplatesQuery, enabled: may });
  if (!may || !templates.data?.length) return null;
  return (
    <Choice
      bare
      label="Send as"
      value=""
      disabled={busy}
      options={[['', 'Send as …'], ...templates.data.map(t => [t.id, t.name] as const)]}
      onChoose={id => id && void use(id)}
    />
  );
}

interface AskTextProps {
  act: (typeof ACTS)[number];
  orders: number;
  leave: () => void;
  done: (text: string) => void;
}

/** Asks for the reason or the tag; it begins empty each time, so that no reason of an earlier act stays. */
function AskText({ act: [act, words, label], orders, leave, done }: AskTextProps) {
  const [text, setText] = useState('');
  return (
    <Ask
      title={`${words}: ${count(orders, 'order')}`}
      act={words}
      danger={act === 'cancel'}
      ready={text.trim() !== ''}
      onLeave={leave}
      onAct={() => done(text)}
    >
      <Line label={label!} autoFocus value={text} onType={setText} />
    </Ask>
  );
}

interface AnswersProps {
  state: ManyState<BulkAnswer>;
  stop: () => void;
  close: () => void;
}

/** How far the act is, and what each order answered. */
function Answers({ state, stop, close }: AnswersProps) {
  const done = state.answers.filter(a => a.done).length;
  return (
    <div role="status">
      {state.running && (
        <LinearProgress
          variant="determinate"
          aria-label="Orders answered"
          value={(100 * state.answers.length) / state.of}
          sx={{ my: 1, height: 8 }}
        />
      )}
      <div>
        {done} of {count(state.of, 'order')} done
        {state.stopped && `, stopped: ${count(state.of - state.answers.length, 'order')} not touched`}.{' '}
        <Button size="small" onClick={state.running ? stop : close}>
          {state.running ? 'Stop here' : 'Close'}
        </Button>
      </div>
      <ProblemNote error={state.error} />
      <ul className={pageCss.answers}>
        {state.answers.map(a => (
          <li key={a.id} className={a.done ? '' : textCss.stop}>
            <Link className={`${textCss.code} ${textCss.name}`} to={`/orders/${a.id}`}>
              {a.number}
            </Link>{' '}
            {a.done ? '✓' : '✕'} {a.says}
          </li>
        ))}
      </ul>
    </div>
  );
}

function MakeList({ chosen, made }: { chosen: string[]; made: () => void }) {
  const navigate = useNavigate();
  const client = useQueryClient();
  const make = useMutation({
    mutationFn: () => makeList(chosen),
    onSuccess: ({ no }) => {
      made();
      void changed(client, 'orders', 'stock', 'lists', 'parcels');
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
    mutationFn: () => mergeOrders(chosen),
    onSuccess: ({ id }) => {
      done();
      void changed(client, 'orders', 'stock', 'lists', 'parcels');
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
