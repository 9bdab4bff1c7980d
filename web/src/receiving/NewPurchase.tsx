import { MadeNo } from '@auk/contract';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { v7 } from 'uuid';
import { post } from '../api.js';
import { Ask } from '../parts/ask.js';

interface Line {
  sku: string;
  quantity: string;
}
const EMPTY: Line = { sku: '', quantity: '' };

/** Types a purchase order in: supplier, their reference, the day, and what is ordered. */
export function NewPurchase({ leave, made }: { leave: () => void; made: (no: string) => void }) {
  const [key] = useState(() => v7());
  const [head, setHead] = useState({ supplier: '', reference: '', expected: '' });
  const [lines, setLines] = useState<Line[]>([EMPTY]);
  const client = useQueryClient();
  const filled = lines.filter(l => l.sku.trim() !== '');
  const create = useMutation({
    mutationFn: () =>
      post(MadeNo, 'receiving', {
        key,
        ...head,
        expected: head.expected || null,
        lines: filled.map(l => ({ sku: l.sku, quantity: Number(l.quantity) })),
      }),
    onSuccess: async ({ no }) => {
      await client.invalidateQueries();
      made(no);
    },
  });
  const change = (i: number, more: Partial<Line>) => {
    const next = lines.map((l, k) => (k === i ? { ...l, ...more } : l));
    if (next.at(-1)!.sku !== '') next.push(EMPTY);
    setLines(next);
  };
  const field = (name: keyof typeof head, label: string, type = 'text') => (
    <input
      aria-label={label}
      placeholder={label.toLowerCase()}
      type={type}
      value={head[name]}
      onChange={e => setHead({ ...head, [name]: e.target.value })}
    />
  );
  return (
    <Ask
      title="New purchase order"
      act="Make it"
      ready={head.supplier.trim() !== '' && filled.length > 0 && filled.every(l => Number(l.quantity) > 0)}
      busy={create.isPending}
      error={create.error}
      onAct={() => create.mutate()}
      onLeave={leave}
    >
      <p>From {field('supplier', 'Supplier')}</p>
      <p style={{ marginTop: 8 }}>their number {field('reference', 'Reference')}</p>
      <p style={{ marginTop: 8 }}>expected {field('expected', 'Expected', 'date')}</p>
      {lines.map((l, i) => (
        <p key={`line ${i + 1}`} style={{ marginTop: 8 }}>
          <input
            aria-label={`Quantity ${i + 1}`}
            placeholder="how many"
            inputMode="numeric"
            style={{ width: 90 }}
            value={l.quantity}
            onChange={e => change(i, { quantity: e.target.value.replace(/\D/g, '') })}
          />{' '}
          ×{' '}
          <input
            aria-label={`SKU ${i + 1}`}
            placeholder="SKU"
            value={l.sku}
            onChange={e => change(i, { sku: e.target.value.toUpperCase() })}
          />
        </p>
      ))}
    </Ask>
  );
}
