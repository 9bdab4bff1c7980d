import { Corrected, StockRow } from '@auk/contract';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { v7 } from 'uuid';
import { post } from '../api.js';
import { Ask } from '../parts/ask.js';

export interface CarryWhat {
  act: 'move' | 'write off';
  row: StockRow;
}

/** Moves goods to another place, or writes them off; with how many and why. Says which orders lose what they were promised. */
export function CarryStock({ what: { act, row }, leave }: { what: CarryWhat; leave: () => void }) {
  const [key] = useState(() => v7());
  const [quantity, setQuantity] = useState(String(Math.max(1, row.free)));
  const [to, setTo] = useState('');
  const [reason, setReason] = useState('');
  const client = useQueryClient();
  const move = act === 'move';
  const send = useMutation({
    mutationFn: () =>
      post(Corrected, move ? 'stock/moves' : 'stock/write-offs', {
        key,
        sku: row.sku,
        lot: row.lot,
        from: row.place,
        quantity: Number(quantity),
        reason,
        ...(move && { to }),
      }),
    onSuccess: async done => {
      await client.invalidateQueries();
      if (done.short.length === 0) leave();
    },
  });
  const short = send.data?.short ?? [];
  return (
    <Ask
      title={move ? `Move ${row.name}` : `Write off ${row.name}`}
      act={short.length > 0 ? 'Done' : move ? 'Move' : 'Write off'}
      danger={!move}
      ready={Number(quantity) > 0 && reason.trim().length >= 3 && (!move || to !== '')}
      busy={send.isPending}
      error={send.error}
      onAct={() => (short.length > 0 ? leave() : send.mutate())}
      onLeave={leave}
    >
      <p>
        <input
          aria-label="How many"
          inputMode="numeric"
          style={{ width: 80 }}
          value={quantity}
          onChange={e => setQuantity(e.target.value.replace(/\D/g, ''))}
        />{' '}
        of {row.onHand} from <b className="code">{row.place}</b>
        {row.lot && ` lot ${row.lot}`}
        {move && (
          <>
            {' '}
            to{' '}
            <input
              aria-label="To place"
              style={{ width: 130 }}
              value={to}
              onChange={e => setTo(e.target.value.toUpperCase())}
            />
          </>
        )}
      </p>
      <p style={{ marginTop: 12 }}>
        because{' '}
        <input
          aria-label="Why"
          style={{ width: 300 }}
          maxLength={120}
          value={reason}
          onChange={e => setReason(e.target.value)}
        />
      </p>
      {short.length > 0 && (
        <p className="risk" role="status" style={{ marginTop: 12 }}>
          ◆ Short now, newest promise first: {short.map(o => o.channelNumber).join(', ')}
        </p>
      )}
    </Ask>
  );
}
