import { OrderView } from '@auk/contract';
import Button from '@mui/material/Button';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { changed } from '../../asked.js';
import { Ask } from '../../parts/ask.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { actOnOrder, copyOrder } from '../api.js';
import { AskCancel } from './AskCancel.js';

/** Stages in which a service may still be chosen. */
const WAITS = new Set(['Incoming', 'Stopped', 'Parked', 'Short', 'Clear', 'Listed', 'Picked', 'Packed']);

const PAPERS = [
  ['slip', 'Slip'],
  ['invoice', 'Invoice'],
] as const;

type Asked = 'park' | 'unpark' | 'cancel' | null;

/** What can be done with the order as a whole. */
export function OrderActs({
  order: o,
  can,
  onSplit,
}: {
  order: OrderView;
  can: boolean;
  onSplit: () => void;
}) {
  const [asking, setAsking] = useState<Asked>(null);
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const client = useQueryClient();
  const navigate = useNavigate();
  const act = useMutation({
    mutationFn: ([path, body]: [string, object]) => actOnOrder(o.row.id, path, body),
    onSuccess: () => {
      setAsking(null);
      void changed(client, 'orders', 'stock', 'lists', 'parcels');
    },
  });
  const copy = useMutation({
    mutationFn: (free: boolean) => copyOrder(o.row.id, free),
    onSuccess: made => navigate(`/orders/${made.id}`),
  });
  const parked = o.row.stage === 'Parked' || (o.parkWord !== null && o.row.stage === 'Stopped');
  const unpark = () => (o.parkWord ? setAsking('unpark') : act.mutate(['unpark', {}]));
  const pick = (then: () => void) => () => {
    setMenu(null);
    then();
  };
  const open = (paper: string) =>
    window.open(`/api/v1/orders/${o.row.id}/${paper}.pdf`, '_blank', 'noopener');
  return (
    <div className={pageCss.row} style={{ gap: 8 }}>
      {o.draft && (
        <Button
          variant="contained"
          disabled={act.isPending || o.lines.length === 0}
          onClick={() => act.mutate(['finish', { version: o.version }])}
        >
          Enter the order
        </Button>
      )}
      {!o.draft && WAITS.has(o.row.stage) && (
        <Button
          component={Link}
          to={`/parcels/compare?order=${o.row.id}`}
          variant="outlined"
          color="secondary"
        >
          Services
        </Button>
      )}
      {!o.draft &&
        PAPERS.map(([paper, words]) => (
          <Button key={paper} variant="outlined" color="secondary" onClick={() => open(paper)}>
            {words}
          </Button>
        ))}
      {can &&
        !o.draft &&
        (parked ? (
          <Button variant="contained" onClick={unpark}>
            Unpark
          </Button>
        ) : (
          <Button variant="outlined" color="secondary" onClick={() => setAsking('park')}>
            Park
          </Button>
        ))}
      <Button
        variant="outlined"
        color="secondary"
        aria-haspopup="menu"
        onClick={e => setMenu(e.currentTarget)}
      >
        More
      </Button>
      <Menu open={menu !== null} anchorEl={menu} onClose={() => setMenu(null)}>
        <MenuItem onClick={pick(() => copy.mutate(false))}>Copy as a new draft</MenuItem>
        {!o.draft && (
          <MenuItem onClick={pick(() => copy.mutate(true))}>Send goods again, free of charge</MenuItem>
        )}
        {can && !o.draft && <MenuItem onClick={pick(onSplit)}>Split off lines</MenuItem>}
        {can && <MenuItem onClick={pick(() => setAsking('cancel'))}>Cancel order</MenuItem>}
      </Menu>
      {!asking && <ProblemNote error={act.error ?? copy.error} />}
      {asking && (
        <AskReason
          asked={asking}
          order={o}
          busy={act.isPending}
          error={act.error}
          leave={() => setAsking(null)}
          act={(path, body) => act.mutate([path, body])}
        />
      )}
    </div>
  );
}

/** Asks why, or for the words that unparking wants. What is typed lives here, so that a scan into the field is not held up by the page. */
function AskReason(props: {
  asked: 'park' | 'unpark' | 'cancel';
  order: OrderView;
  busy: boolean;
  error: unknown;
  leave: () => void;
  act: (path: string, body: object) => void;
}) {
  const { asked, order: o, busy, error, leave, act } = props;
  const [text, setText] = useState('');
  const [word, setWord] = useState('');
  const common = { busy, error, onLeave: leave };
  if (asked === 'unpark')
    return (
      <Ask
        {...common}
        title="Unpark the order"
        act="Unpark"
        ready={word.trim() !== ''}
        onAct={() => act('unpark', { word })}
      >
        <p>
          Freeing it wants these words: <b>{o.parkWord}</b>
        </p>
        <Line label="Type them" autoFocus value={word} onType={setWord} />
      </Ask>
    );
  if (asked === 'cancel')
    return <AskCancel {...common} order={o} onCancel={reason => act('cancel', { reason })} />;
  return (
    <Ask
      {...common}
      title="Park the order"
      act="Park"
      ready={text.trim() !== ''}
      onAct={() => act('park', { reason: text, word })}
    >
      <Line label="Why" autoFocus value={text} onType={setText} />
      <Line label="Words to type for unparking (may stay empty)" value={word} onType={setWord} />
    </Ask>
  );
}
