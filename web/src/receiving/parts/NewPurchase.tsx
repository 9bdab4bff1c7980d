import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { v7 } from 'uuid';
import { changed } from '../../asked.js';
import { PickProduct } from '../../catalog/parts/PickProduct.js';
import { Ask } from '../../parts/ask.js';
import { DayField } from '../../parts/DayField.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { say } from '../../parts/say.js';
import { makePurchase } from '../api.js';

interface WantedLine {
  sku: string;
  quantity: string;
}
const EMPTY: WantedLine = { sku: '', quantity: '' };

/** Types a purchase order in: supplier, their reference, the day, and what is ordered. */
export function NewPurchase({ leave, made }: { leave: () => void; made: (no: string) => void }) {
  const [key] = useState(() => v7());
  const [head, setHead] = useState({ supplier: '', reference: '', expected: null as string | null });
  const [lines, setLines] = useState<WantedLine[]>([EMPTY]);
  const client = useQueryClient();
  const filled = lines.filter(l => l.sku.trim() !== '');
  const create = useMutation({
    mutationFn: () =>
      makePurchase({
        key,
        ...head,
        lines: filled.map(l => ({ sku: l.sku, quantity: Number(l.quantity) })),
      }),
    onSuccess: async ({ no }) => {
      say(`${no} is made.`);
      await changed(client, 'purchases', 'stock', 'orders');
      made(no);
    },
  });
  const change = (i: number, more: Partial<WantedLine>) => {
    const next = lines.map((l, k) => (k === i ? { ...l, ...more } : l));
    if (next.at(-1)!.sku !== '') next.push(EMPTY);
    setLines(next);
  };
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
      <Line
        label="Supplier"
        autoFocus
        value={head.supplier}
        onType={supplier => setHead({ ...head, supplier })}
      />
      <Line
        label="Reference"
        hint="Their number of it."
        value={head.reference}
        onType={reference => setHead({ ...head, reference })}
      />
      <DayField
        label="Expected"
        value={head.expected}
        onChange={expected => setHead({ ...head, expected })}
      />
      {lines.map((l, i) => (
        <div className={pageCss.row} style={{ gap: 8 }} key={`line ${i + 1}`}>
          <Line
            bare
            digits
            width={6}
            label={`Quantity ${i + 1}`}
            placeholder="how many"
            value={l.quantity}
            onType={quantity => change(i, { quantity })}
          />
          ×
          <PickProduct bare label={`SKU ${i + 1}`} sku={l.sku} onPick={sku => change(i, { sku })} />
        </div>
      ))}
    </Ask>
  );
}
