import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { v7 } from 'uuid';
import { changed } from '../../asked.js';
import { PickProduct } from '../../catalog/parts/PickProduct.js';
import { Ask } from '../../parts/ask.js';
import { Line } from '../../parts/Line.js';
import { say } from '../../parts/say.js';
import { takeApart } from '../api.js';

/** Takes kits apart: which, how many, from where, and where the parts go. */
export function TakeApart({ leave, done }: { leave: () => void; done: (no: string) => void }) {
  const [key] = useState(() => v7());
  const [input, setInput] = useState({ sku: '', quantity: '1', from: '', to: '', reason: '' });
  const client = useQueryClient();
  const act = useMutation({
    mutationFn: () => takeApart({ key, ...input, quantity: Number(input.quantity) }),
    onSuccess: async ({ no }) => {
      say(`${no} took them apart.`);
      await changed(client, 'builds', 'catalog', 'stock', 'orders');
      done(no);
    },
  });
  const put = (name: keyof typeof input) => (text: string) => setInput({ ...input, [name]: text });
  return (
    <Ask
      title="Take kits apart"
      act="Take them apart"
      ready={input.sku !== '' && Number(input.quantity) > 0 && input.from !== '' && input.to !== ''}
      busy={act.isPending}
      error={act.error}
      onAct={() => act.mutate()}
      onLeave={leave}
    >
      <Line label="How many" digits value={input.quantity} onType={put('quantity')} />
      <PickProduct label="SKU" sku={input.sku} may={p => p.kind === 'kit'} onPick={put('sku')} />
      <Line label="Place" capitals value={input.from} onType={put('from')} />
      <Line label="Place for the parts" capitals value={input.to} onType={put('to')} />
      <Line label="Why" value={input.reason} onType={put('reason')} />
    </Ask>
  );
}
