import { can, type JudgeIn, type ReturnPiece, type ReturnView } from '@auk/contract';
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { v7 } from 'uuid';
import { changed } from '../../asked.js';
import { Ask } from '../../parts/ask.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { useMe } from '../../people/useMe.js';
import { countPiece, judgePiece } from '../api.js';
import css from '../returns.module.css';

/** What was sent in a parcel that came back: how much of it is there, and what becomes of it. */
export function Pieces({ back }: { back: ReturnView }) {
  return (
    <div className={css.pieces}>
      {back.pieces.map(p => (
        <Piece key={p.id} piece={p} />
      ))}
      <p className={textCss.quiet}>What nobody judged yet lies at {back.place}.</p>
    </div>
  );
}

function Piece({ piece: p }: { piece: ReturnPiece }) {
  const me = useMe();
  const client = useQueryClient();
  const [asking, setAsking] = useState<JudgeIn['as'] | null>(null);
  const after = () => changed(client, 'parcels', 'orders', 'stock');
  const count = useMutation({ mutationFn: (n: number) => countPiece(p.id, n), onSuccess: after });
  return (
    <div className={css.piece}>
      <span>
        <b>
          {p.quantity} of {p.sent}
        </b>{' '}
        {p.name} <span className={textCss.code}>{p.sku}</span>
        {p.lot && <span className={textCss.quiet}> lot {p.lot}</span>}
      </span>
      {p.judged === 'open' ? (
        <span className={pageCss.inline}>
          {can(me, 'returns.take') && (
            <>
              <Button
                size="small"
                color="secondary"
                aria-label={`One ${p.name} less`}
                disabled={p.quantity === 0 || count.isPending}
                onClick={() => count.mutate(p.quantity - 1)}
              >
                − 1
              </Button>
              <Button
                size="small"
                color="secondary"
                aria-label={`One ${p.name} more`}
                disabled={p.quantity === p.sent || count.isPending}
                onClick={() => count.mutate(p.quantity + 1)}
              >
                + 1
              </Button>
            </>
          )}
          {can(me, 'returns.judge') && (
            <>
              <Button size="small" variant="outlined" onClick={() => setAsking('resell')}>
                Sell again
              </Button>
              <Button size="small" variant="outlined" color="error" onClick={() => setAsking('write off')}>
                Write off
              </Button>
            </>
          )}
        </span>
      ) : (
        <span className={`${textCss.stage} ${p.judged === 'resell' ? textCss.good : ''}`}>
          {p.judged === 'resell' ? '✓ back in stock' : '○ written off'}
        </span>
      )}
      <ProblemNote error={count.error} />
      {asking && <Judge piece={p} as={asking} done={after} leave={() => setAsking(null)} />}
    </div>
  );
}

function Judge({
  piece: p,
  as,
  done,
  leave,
}: {
  piece: ReturnPiece;
  as: JudgeIn['as'];
  done: () => Promise<unknown>;
  leave: () => void;
}) {
  const [text, setText] = useState('');
  const [key] = useState(() => v7());
  const judge = useMutation({
    mutationFn: () =>
      judgePiece(p.id, as === 'resell' ? { key, as, place: text } : { key, as, reason: text }),
    onSuccess: async () => {
      await done();
      leave();
    },
  });
  const resell = as === 'resell';
  return (
    <Ask
      title={resell ? `Put ${p.quantity} × ${p.name} back into stock` : `Write ${p.quantity} × ${p.name} off`}
      act={resell ? 'Put it there' : 'Write it off'}
      danger={!resell}
      ready={text.trim().length >= (resell ? 1 : 3)}
      busy={judge.isPending}
      error={judge.error}
      onAct={() => judge.mutate()}
      onLeave={leave}
    >
      <Line
        label={resell ? 'Place: scan the label of the shelf' : 'Why'}
        autoFocus
        capitals={resell}
        value={text}
        onType={setText}
      />
    </Ask>
  );
}
