import { StockRow } from '@auk/contract';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { v7 } from 'uuid';
import { changed } from '../../asked.js';
import { Ask } from '../../parts/ask.js';
import { Line } from '../../parts/Line.js';
import textCss from '../../parts/text.module.css';
import { moveStock, writeOff } from '../api.js';

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
      (move ? moveStock : writeOff)({
        key,
        sku: row.sku,
        lot: row.lot,
        from: row.place,
        quantity: Number(quantity),
        reason,
        ...(move && { to }),
      }),
    onSuccess: async done => {
      await changed(client, 'stock', 'orders');
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
        {row.onHand} lie in <b className={textCss.code}>{row.place}</b>
        {row.lot && ` as lot ${row.lot}`}.
      </p>
      <Line label="How many" digits value={quantity} onType={setQuantity} />
      {move && <Line label="To place" capitals value={to} onType={setTo} />}
      <Line label="Why" most={120} value={reason} onType={setReason} />
      {short.length > 0 && (
        <p className={textCss.risk} role="status" style={{ marginTop: 12 }}>
          ◆ Short now, newest promise first: {short.map(o => o.channelNumber).join(', ')}
        </p>
      )}
    </Ask>
  );
}
