import { KitRow, PromiseAnswer } from '@auk/contract';
import Button from '@mui/material/Button';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { post } from '../api.js';
import { ProblemNote } from '../parts/problem.js';
import { PartsText } from './PartsText.js';

interface Wish {
  sku: string;
  quantity: string;
}
const EMPTY: Wish = { sku: '', quantity: '' };

/** "Can I promise this?": wished quantities of several sellables together; yes, or which part runs out at which wish. */
export function PromiseBox({ kits }: { kits: readonly KitRow[] }) {
  const [wishes, setWishes] = useState<Wish[]>([EMPTY]);
  const ask = useMutation({
    mutationFn: (list: Wish[]) =>
      post(PromiseAnswer, 'kits/promise', {
        wishes: list.map(w => ({ sku: w.sku, quantity: Number(w.quantity) })),
      }),
  });
  const change = (i: number, more: Partial<Wish>) => {
    const next = wishes.map((w, k) => (k === i ? { ...w, ...more } : w));
    if (next.at(-1)!.sku !== '') next.push(EMPTY);
    setWishes(next);
    ask.reset();
  };
  const filled = wishes.filter(w => w.sku.trim() !== '' && Number(w.quantity) > 0);
  return (
    <form
      className="promise"
      onSubmit={e => {
        e.preventDefault();
        if (filled.length > 0) ask.mutate(filled);
      }}
    >
      <h2>Can I promise this?</h2>
      <p className="quiet">Together, from what is free now. The first wish is served first.</p>
      <datalist id="sellable">
        {kits.map(k => (
          <option key={k.sku} value={k.sku}>
            {k.name}
          </option>
        ))}
      </datalist>
      {wishes.map((w, i) => (
        <div className="wish" key={`wish ${i + 1}`}>
          <input
            aria-label={`SKU of wish ${i + 1}`}
            placeholder="SKU"
            list="sellable"
            value={w.sku}
            onChange={e => change(i, { sku: e.target.value.toUpperCase() })}
          />
          <input
            aria-label={`Quantity of wish ${i + 1}`}
            placeholder="how many"
            inputMode="numeric"
            value={w.quantity}
            onChange={e => change(i, { quantity: e.target.value.replace(/\D/g, '') })}
          />
        </div>
      ))}
      <Button type="submit" variant="outlined" disabled={filled.length === 0 || ask.isPending}>
        Ask
      </Button>
      <ProblemNote error={ask.error} />
      {ask.data && (
        <p className={ask.data.yes ? 'verdict good' : 'verdict stop'} role="status">
          <b aria-hidden="true">{ask.data.yes ? '✓' : '✕'}</b> {ask.data.says}
        </p>
      )}
      {ask.data && ask.data.short.length > 0 && (
        <p className="quiet">
          All of it lacks <PartsText parts={ask.data.short} />.
        </p>
      )}
    </form>
  );
}
