import { KitView } from '@auk/contract';
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { changed } from '../../asked.js';
import { PickProduct } from '../../catalog/parts/PickProduct.js';
import { Drop } from '../../parts/Drop.js';
import { Form } from '../../parts/Form.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { saveRecipe } from '../api.js';
import css from '../kits.module.css';

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
  const nameOf = new Map(now?.parts.map(p => [p.sku, p.name]));
  const save = useMutation({
    mutationFn: () =>
      saveRecipe(kit.sku, {
        parts: parts.filter(p => p.sku !== '').map(p => ({ sku: p.sku, quantity: Number(p.quantity) })),
        note,
        version: now?.version ?? 0,
      }),
    onSuccess: async () => {
      await changed(client, 'builds', 'catalog', 'stock', 'orders');
      leave();
    },
  });
  const change = (i: number, more: Partial<Part>) => {
    const next = parts.map((p, k) => (k === i ? { ...p, ...more } : p));
    if (next.at(-1)!.sku !== '') next.push({ sku: '', quantity: '1' });
    setParts(next);
  };
  return (
    <Form onSend={() => save.mutate()} ready={!save.isPending}>
      {parts.map((p, i) => (
        <div className={css.recipeEdit} key={`part ${i + 1}`}>
          <Line
            bare
            digits
            label={`Quantity of part ${i + 1}`}
            value={p.quantity}
            onType={quantity => change(i, { quantity })}
          />
          <PickProduct
            bare
            label={`SKU of part ${i + 1}`}
            placeholder="SKU or name of a part"
            sku={p.sku}
            may={other => other.sku !== kit.sku}
            onPick={sku => change(i, { sku })}
          />
          <span className={`${textCss.quiet} ${textCss.cut}`}>{nameOf.get(p.sku) ?? ''}</span>
          {p.sku !== '' && (
            <Drop label={`Take ${p.sku} out`} onDrop={() => setParts(parts.filter((_, k) => k !== i))} />
          )}
        </div>
      ))}
      <div className={pageCss.fields}>
        <Line label="Why it changes" width={24} most={200} value={note} onType={setNote} />
        <Button type="submit" variant="outlined" color="secondary" disabled={save.isPending}>
          Save as version {(now?.version ?? 0) + 1}
        </Button>
        {now && <Button onClick={leave}>Leave it</Button>}
      </div>
      <ProblemNote error={save.error} />
    </Form>
  );
}
