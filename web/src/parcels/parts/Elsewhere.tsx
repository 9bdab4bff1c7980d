import { ElsewhereLabel, type ParcelView } from '@auk/contract';
import { parseAmount } from '@auk/core';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { v7 } from 'uuid';
import { carriersQuery } from '../../carriers/api.js';
import { Ask } from '../../parts/ask.js';
import { Choice } from '../../parts/Choice.js';
import { DayField } from '../../parts/DayField.js';
import { Line } from '../../parts/Line.js';
import { useCurrency } from '../../setup/useCurrency.js';
import { typeElsewhere } from '../api.js';

interface Props {
  parcel: ParcelView;
  done: () => void;
  leave: () => void;
}

/** Types in a label that was bought somewhere else. */
export function Elsewhere({ parcel: p, done, leave }: Props) {
  const currency = useCurrency();
  const carriers = useQuery(carriersQuery);
  const [key] = useState(() => v7());
  const [typed, setTyped] = useState({
    carrier: '',
    service: '',
    tracking: '',
    price: '',
    arrives: p.promised,
  });
  const set = (change: Partial<typeof typed>) => setTyped({ ...typed, ...change });
  const carrier = typed.carrier || carriers.data?.[0]?.code || '';
  const price = parseAmount(typed.price || '0', currency);
  const { service, tracking, arrives } = typed;
  const read = ElsewhereLabel.safeParse({
    carrier,
    service,
    tracking,
    arrives,
    key,
    minor: price.ok ? price.value : -1,
  });
  const save = useMutation({ mutationFn: () => typeElsewhere(p.no, read.data!), onSuccess: done });
  return (
    <Ask
      title={`Label of ${p.no}, bought elsewhere`}
      act="Keep it"
      ready={read.success}
      busy={save.isPending}
      error={save.error}
      onAct={() => save.mutate()}
      onLeave={leave}
    >
      <Choice
        label="Carrier"
        value={carrier}
        options={carriers.data?.map(c => [c.code, c.name] as const) ?? []}
        onChoose={c => set({ carrier: c })}
        fullWidth
      />
      <Line label="Service" autoFocus value={service} onType={s => set({ service: s })} />
      <Line label="Tracking number" capitals value={tracking} onType={t => set({ tracking: t })} />
      <Line
        label={`What it cost, in ${currency}`}
        value={typed.price}
        wrong={typed.price !== '' && !price.ok ? price.problem : null}
        onType={t => set({ price: t })}
      />
      <DayField label="Arrives" value={arrives} onChange={day => set({ arrives: day })} />
    </Ask>
  );
}
