import { MadeNo } from '@auk/contract';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { v7 } from 'uuid';
import { post } from '../api.js';
import { Ask } from '../parts/ask.js';

/** Takes kits apart: which, how many, from where, and where the parts go. */
export function TakeApart({ leave, done }: { leave: () => void; done: (no: string) => void }) {
  const [key] = useState(() => v7());
  const [input, setInput] = useState({ sku: '', quantity: '1', from: '', to: '', reason: '' });
  const client = useQueryClient();
  const act = useMutation({
    mutationFn: () => post(MadeNo, 'builds/unbuild', { key, ...input, quantity: Number(input.quantity) }),
    onSuccess: async ({ no }) => {
      await client.invalidateQueries();
      done(no);
    },
  });
  const field = (name: keyof typeof input, label: string, width = 120) => (
    <input
      aria-label={label}
      placeholder={label.toLowerCase()}
      style={{ width }}
      value={input[name]}
      onChange={e =>
        setInput({ ...input, [name]: name === 'reason' ? e.target.value : e.target.value.toUpperCase() })
      }
    />
  );
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
      <p>
        {field('quantity', 'How many', 70)} of {field('sku', 'SKU', 150)} from {field('from', 'Place')}
      </p>
      <p style={{ marginTop: 10 }}>Their parts go to {field('to', 'Place for the parts')}</p>
      <p style={{ marginTop: 10 }}>because {field('reason', 'Why', 260)}</p>
    </Ask>
  );
}
