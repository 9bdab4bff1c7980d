import { KitRow } from '@auk/contract';
import Button from '@mui/material/Button';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { SkuAndName } from '../../catalog/parts/PickProduct.js';
import { Form } from '../../parts/Form.js';
import { Line } from '../../parts/Line.js';
import { PickOne } from '../../parts/PickOne.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { askPromise } from '../api.js';
import css from '../kits.module.css';
import { PartsText } from './PartsText.js';

interface Wish {
  sku: string;
  quantity: string;
}
const EMPTY: Wish = { sku: '', quantity: '' };

/** "Can I promise this?": wished quantities of several sellables together; yes, or which part runs out at which wish. */
export function PromiseBox({ kits }: { kits: readonly Pick<KitRow, 'sku' | 'name'>[] }) {
  const [wishes, setWishes] = useState<Wish[]>([EMPTY]);
  const ask = useMutation({
    mutationFn: (list: Wish[]) =>
      askPromise({
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
    <Form className={pageCss.side} ready={filled.length > 0} onSend={() => ask.mutate(filled)}>
      <h2>Can I promise this?</h2>
      <p className={textCss.quiet}>Together, from what is free now. The first wish is served first.</p>
      {wishes.map((w, i) => (
        <div className={css.wish} key={`wish ${i + 1}`}>
          <PickOne
            bare
            label={`SKU of wish ${i + 1}`}
            placeholder="SKU"
            value={w.sku === '' ? null : { sku: w.sku, name: '' }}
            options={kits}
            wordsOf={k => k.sku}
            keyOf={k => k.sku}
            ofWords={words => ({ sku: words.toUpperCase(), name: '' })}
            onPick={k => change(i, { sku: k?.sku ?? '' })}
            show={k => <SkuAndName sku={k.sku} name={k.name} />}
          />
          <Line
            bare
            digits
            label={`Quantity of wish ${i + 1}`}
            placeholder="how many"
            value={w.quantity}
            onType={quantity => change(i, { quantity })}
          />
        </div>
      ))}
      <Button
        type="submit"
        variant="outlined"
        color="secondary"
        disabled={filled.length === 0 || ask.isPending}
      >
        Ask
      </Button>
      <ProblemNote error={ask.error} />
      {ask.data && (
        <p
          className={ask.data.yes ? `${css.verdict} ${textCss.good}` : `${css.verdict} ${textCss.stop}`}
          role="status"
        >
          <b aria-hidden="true">{ask.data.yes ? '✓' : '✕'}</b> {ask.data.says}
        </p>
      )}
      {ask.data && ask.data.short.length > 0 && (
        <p className={textCss.quiet}>
          All of it lacks <PartsText parts={ask.data.short} />.
        </p>
      )}
    </Form>
  );
}
