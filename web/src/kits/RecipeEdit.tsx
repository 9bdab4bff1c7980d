import { KitView, ProductRow, pageOf } from '@auk/contract';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { get, send } from '../api.js';
import { ProblemNote } from '../parts/problem.js';

interface Part {
  sku: string;
  quantity: string;
}

/** Changes a recipe: parts and quantities; saving makes a new version, orders that are here keep theirs. */
export function RecipeEdit({ kit, leave }: { kit: KitView; leave: () => void }) {
  const now = kit.versions[0];
  const [parts, setParts] = useState<Part[]>([
    ...(now?.parts ?? []).map(p => ({ sku: p.sku, quantity: String(p.quantity) })),
    { sku: '', quantity: '1' },
  ]);
  const [note, setNote] = useState('');
  const client = useQueryClient();
  const products = useQuery({
    queryKey: ['products', ''],
    queryFn: () => get(pageOf(ProductRow), 'products'),
  });
  const nameOf = new Map(products.data?.rows.map(p => [p.sku, p.name]));
  const save = useMutation({
    mutationFn: () =>
      send(`kits/${encodeURIComponent(kit.sku)}/recipe`, {
        parts: parts.filter(p => p.sku !== '').map(p => ({ sku: p.sku, quantity: Number(p.quantity) })),
        note,
        version: now?.version ?? 0,
      }),
    onSuccess: async () => {
      await client.invalidateQueries();
      leave();
    },
  });
  const change = (i: number, more: Partial<Part>) => {
    const next = parts.map((p, k) => (k === i ? { ...p, ...more } : p));
    if (next.at(-1)!.sku !== '') next.push({ sku: '', quantity: '1' });
    setParts(next);
  };
  return (
    <form
      onSubmit={e => {
        e.preventDefault();
        save.mutate();
      }}
    >
      <datalist id="parts">
        {products.data?.rows
          .filter(p => p.sku !== kit.sku && p.stage !== 'Retired')
          .map(p => (
            <option key={p.sku} value={p.sku}>
              {p.name}
            </option>
          ))}
      </datalist>
      {parts.map((p, i) => (
        <div className="recipe-edit" key={`part ${i + 1}`}>
          <input
            aria-label={`Quantity of part ${i + 1}`}
            inputMode="numeric"
            value={p.quantity}
            onChange={e => change(i, { quantity: e.target.value.replace(/\D/g, '') })}
          />
          <input
            aria-label={`SKU of part ${i + 1}`}
            placeholder="SKU of a part"
            list="parts"
            value={p.sku}
            onChange={e => change(i, { sku: e.target.value.toUpperCase() })}
          />
          <span className="quiet cut">{nameOf.get(p.sku) ?? ''}</span>
          {p.sku !== '' && (
            <button
              type="button"
              className="drop-clause"
              aria-label={`Take ${p.sku} out`}
              onClick={() => setParts(parts.filter((_, k) => k !== i))}
            >
              ✕
            </button>
          )}
        </div>
      ))}
      <div className="planform">
        <label className="grow">
          Why it changes
          <input value={note} maxLength={200} onChange={e => setNote(e.target.value)} />
        </label>
        <Button type="submit" variant="outlined" disabled={save.isPending}>
          Save as version {(now?.version ?? 0) + 1}
        </Button>
        {now && <Button onClick={leave}>Leave it</Button>}
      </div>
      <ProblemNote error={save.error} />
    </form>
  );
}
