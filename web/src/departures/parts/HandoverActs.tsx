import { can, HandoverView } from '@auk/contract';
import Button from '@mui/material/Button';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Refused } from '../../api.js';
import { Ask } from '../../parts/ask.js';
import { Line } from '../../parts/Line.js';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { useMe } from '../../people/useMe.js';
import { bookCollection, cancelDeparture, closeDeparture } from '../api.js';
import { Follows } from './Follows.js';

/** Closing the departure, with what is on it or leaving behind what is not, and calling it off. */
export function Acts({
  view,
  put,
  call,
  move,
}: {
  view: HandoverView;
  put: (got: HandoverView) => void;
  call: () => void;
  move: () => void;
}) {
  const me = useMe();
  const scanned = view.parcels.filter(p => p.scanned).length;
  const held = view.parcels.filter(p => p.scanned && p.held).length;
  const behind = view.parcels.length - scanned + held;
  const close = useMutation({
    mutationFn: (leaveBehind: boolean) => closeDeparture(view.no, leaveBehind),
    onSuccess: put,
  });
  const book = useMutation({ mutationFn: () => bookCollection(view.no), onSuccess: put });
  const forMissing = close.error instanceof Refused && close.error.problem.facts !== undefined;
  return (
    <>
      <ProblemNote error={close.error ?? book.error} />
      <Button variant="contained" size="large" disabled={close.isPending} onClick={() => close.mutate(false)}>
        {scanned === 0 ? 'Close departure, nothing left' : `Close departure with ${scanned}`}
      </Button>
      {forMissing && behind > 0 && (
        <Button variant="outlined" color="secondary" onClick={() => close.mutate(true)}>
          Close, leave {behind} for the next
        </Button>
      )}
      {view.bookedAs ? (
        <p className={textCss.quiet}>
          ✓ The collection is booked: <span className={textCss.code}>{view.bookedAs}</span>
        </p>
      ) : (
        <Button variant="outlined" color="secondary" disabled={book.isPending} onClick={() => book.mutate()}>
          Book the collection
        </Button>
      )}
      {can(me, 'departures.cancel') && (
        <>
          <Button variant="outlined" color="secondary" onClick={move}>
            Move the cut-off
          </Button>
          <Button variant="outlined" color="error" onClick={call}>
            Cancel the collection
          </Button>
        </>
      )}
    </>
  );
}

interface CallOffProps {
  no: string;
  put: (got: HandoverView) => void;
  leave: () => void;
}

export function CallOff({ no, put, leave }: CallOffProps) {
  const [reason, setReason] = useState('');
  const cancel = useMutation({
    mutationFn: () => cancelDeparture(no, reason),
    onSuccess: got => {
      put(got);
      leave();
    },
  });
  return (
    <Ask
      title="Cancel this collection?"
      act="Cancel the collection"
      danger
      ready={reason.trim().length >= 3}
      busy={cancel.isPending}
      error={cancel.error}
      onAct={() => cancel.mutate()}
      onLeave={leave}
    >
      <p>
        Nothing leaves with it. Its orders and parcels wait for the carrier’s next collection; what was
        scanned comes off the truck.
      </p>
      <Follows no={no} cutOff={null} />
      <Line label="Why it does not come" autoFocus value={reason} onType={setReason} />
    </Ask>
  );
}
