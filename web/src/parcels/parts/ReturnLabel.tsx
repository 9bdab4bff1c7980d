import { can, type LabelView, type ParcelView, wishOf } from '@auk/contract';
import { formatMoney } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { v7 } from 'uuid';
import { Ask } from '../../parts/ask.js';
import { Choice } from '../../parts/Choice.js';
import textCss from '../../parts/text.module.css';
import { useMe } from '../../people/useMe.js';
import { buyReturn, returnOffersQuery, voidReturnLabel } from '../api.js';

/** The label for the way back: bought to lie in the parcel or to be sent ahead, and printed here or by the buyer. */
export function ReturnLabel({ parcel: p, done }: { parcel: ParcelView; done: () => Promise<void> }) {
  const me = useMe();
  const [asking, setAsking] = useState<'buy' | 'void' | null>(null);
  const r = p.returnLabel;
  const free = !r || r.state === 'refused' || r.state === 'voided';
  return (
    <>
      {r && (
        <div className={textCss.quiet}>
          Return label: {r.carrierName}, {r.service} <span className={textCss.code}>{r.tracking}</span>{' '}
          {r.state}
          {r.why && <span className={textCss.risk}> ! {r.why}</span>}
        </div>
      )}
      {r?.pdf && can(me, 'labels.print') && (
        <Button href={r.pdf} target="_blank" variant="outlined" color="secondary">
          Print the return label
        </Button>
      )}
      {free && p.label?.state === 'bought' && can(me, 'labels.choose') && (
        <Button variant="outlined" color="secondary" onClick={() => setAsking('buy')}>
          Buy a return label
        </Button>
      )}
      {r?.state === 'bought' && can(me, 'labels.void') && (
        <Button variant="outlined" color="error" onClick={() => setAsking('void')}>
          Void the return label
        </Button>
      )}
      {asking === 'buy' && <Buy no={p.no} done={done} leave={() => setAsking(null)} />}
      {asking === 'void' && <GiveBack no={p.no} label={r!} done={done} leave={() => setAsking(null)} />}
    </>
  );
}

interface Asked {
  no: string;
  done: () => Promise<void>;
  leave: () => void;
}

function GiveBack({ no, label, done, leave }: Asked & { label: LabelView }) {
  const giveBack = useMutation({
    mutationFn: () => voidReturnLabel(no),
    onSuccess: async () => {
      await done();
      leave();
    },
  });
  return (
    <Ask
      title={`Void the return label of ${no}?`}
      act="Void it"
      danger
      busy={giveBack.isPending}
      error={giveBack.error}
      onAct={() => giveBack.mutate()}
      onLeave={leave}
    >
      <p>
        {label.carrierName} is asked to take {label.tracking} back and to return{' '}
        {formatMoney(label.minor, label.currency)}. A buyer who printed it can send nothing with it any more.
      </p>
    </Ask>
  );
}

function Buy({ no, done, leave }: Asked) {
  const found = useQuery(returnOffersQuery(no));
  const offers = found.data?.offers ?? [];
  const [picked, setPicked] = useState('0');
  const [key] = useState(() => v7());
  const offer = offers[Number(picked)];
  const buy = useMutation({
    mutationFn: () => buyReturn(no, { ...wishOf(offer!), options: {}, key }),
    onSuccess: async () => {
      await done();
      leave();
    },
  });
  return (
    <Ask
      title={`A return label for ${no}`}
      act={offer ? `Buy for ${formatMoney(offer.minor, offer.currency)}` : 'Buy'}
      ready={offer !== undefined}
      busy={buy.isPending}
      error={buy.error ?? found.error}
      onAct={() => buy.mutate()}
      onLeave={leave}
    >
      <p>From the buyer to the house. It can be printed here, or by the buyer on the page of the order.</p>
      {offers.length > 0 ? (
        <Choice
          label="Service"
          value={picked}
          options={offers.map(
            (o, i) =>
              [String(i), `${o.carrierName}, ${o.name}, ${formatMoney(o.minor, o.currency)}`] as const,
          )}
          onChoose={setPicked}
        />
      ) : (
        <p className={textCss.quiet}>
          {found.isPending ? 'Asking the carriers …' : 'No service takes it back.'}
          {found.data?.silent.map(s => (
            <span key={`${s.carrierName} ${s.why}`} style={{ display: 'block' }}>
              {s.carrierName}: {s.why}
            </span>
          ))}
        </p>
      )}
    </Ask>
  );
}
