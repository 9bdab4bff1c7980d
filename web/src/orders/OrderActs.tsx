import { MadeId, OrderView } from '@auk/contract';
import Button from '@mui/material/Button';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { post, send } from '../api.js';
import { Ask } from '../parts/ask.js';
import { ProblemNote } from '../parts/problem.js';

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
    mutationFn: ([path, body]: [string, object]) => send(`orders/${o.row.id}/${path}`, body),
    onSuccess: () => {
      setAsking(null);
      void client.invalidateQueries();
    },
  });
  const copy = useMutation({
    mutationFn: () => post(MadeId, `orders/${o.row.id}/copy`),
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
    <div className="row" style={{ gap: 8 }}>
      {o.draft && (
        <Button
          variant="contained"
          disabled={act.isPending || o.lines.length === 0}
          onClick={() => act.mutate(['finish', { version: o.version }])}
        >
          Enter the order
        </Button>
      )}
      {!o.draft && (
        <Button variant="outlined" onClick={() => open('slip')}>
          Slip
        </Button>
      )}
      {!o.draft && (
        <Button variant="outlined" onClick={() => open('invoice')}>
          Invoice
        </Button>
      )}
      {can &&
        !o.draft &&
        (parked ? (
          <Button variant="contained" onClick={unpark}>
            Unpark
          </Button>
        ) : (
          <Button variant="outlined" onClick={() => setAsking('park')}>
            Park
          </Button>
        ))}
      <Button variant="outlined" aria-haspopup="menu" onClick={e => setMenu(e.currentTarget)}>
        More
      </Button>
      <Menu open={menu !== null} anchorEl={menu} onClose={() => setMenu(null)}>
        <MenuItem onClick={pick(() => copy.mutate())}>Copy as a new draft</MenuItem>
        {can && !o.draft && <MenuItem onClick={pick(onSplit)}>Split off lines</MenuItem>}
        {can && <MenuItem onClick={pick(() => setAsking('cancel'))}>Cancel order</MenuItem>}
      </Menu>
      {!asking && <ProblemNote error={act.error ?? copy.error} />}
      {asking && (
        <AskReason
          asked={asking}
          word={o.parkWord}
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
  word: string | null;
  busy: boolean;
  error: unknown;
  leave: () => void;
  act: (path: string, body: object) => void;
}) {
  const { asked, busy, error, leave, act } = props;
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
          Freeing it wants these words: <b>{props.word}</b>
        </p>
        <TextField
          label="Type them"
          fullWidth
          autoFocus
          margin="dense"
          value={word}
          onChange={e => setWord(e.target.value)}
        />
      </Ask>
    );
  const park = asked === 'park';
  return (
    <Ask
      {...common}
      title={park ? 'Park the order' : 'Cancel the order'}
      act={park ? 'Park' : 'Cancel order'}
      danger={!park}
      ready={text.trim() !== ''}
      onAct={() => act(asked, park ? { reason: text, word } : { reason: text })}
    >
      {!park && <p>It comes off its pick list. What is picked already is laid down, to be put back.</p>}
      <TextField
        label="Why"
        fullWidth
        autoFocus
        margin="dense"
        value={text}
        onChange={e => setText(e.target.value)}
      />
      {park && (
        <TextField
          label="Words to type for unparking (may stay empty)"
          fullWidth
          margin="dense"
          value={word}
          onChange={e => setWord(e.target.value)}
        />
      )}
    </Ask>
  );
}
