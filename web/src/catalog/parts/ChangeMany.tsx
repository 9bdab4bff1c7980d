import { count, type FactValue, PRODUCT_FACTS, parseAmount, parseWeight } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { changed } from '../../asked.js';
import { Choice } from '../../parts/Choice.js';
import { Form } from '../../parts/Form.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { useCurrency } from '../../setup/useCurrency.js';
import { editProducts } from '../api.js';

/** Facts that are changed in many products at once. */
const MANY = [
  { key: 'stage', words: 'stage', kind: 'stage' as const },
  { key: 'weightMg', words: 'weight', kind: 'weight' as const },
  ...PRODUCT_FACTS,
];

export type Kind = (typeof MANY)[number]['kind'];

const FIRST: Partial<Record<Kind, string>> = { flag: 'yes', stage: 'Live' };

export function ChangeMany({ skus, done }: { skus: string[]; done: () => void }) {
  const [field, setField] = useState('stage');
  const [text, setText] = useState('Live');
  const [wrong, setWrong] = useState<string | null>(null);
  const currency = useCurrency();
  const client = useQueryClient();
  const save = useMutation({
    mutationFn: (value: FactValue) => editProducts(skus, { [field]: value }),
    onSuccess: () => {
      void changed(client, 'catalog', 'stock', 'orders');
      done();
    },
  });
  const kindOf = (key: string): Kind => MANY.find(f => f.key === key)!.kind;
  const kind = kindOf(field);
  const apply = () => {
    const read = factOf(kind, text, currency);
    if (read.ok) save.mutate(read.value);
    else setWrong(read.problem);
  };
  const type = (typed: string) => {
    setWrong(null);
    setText(typed);
  };
  return (
    <Form className={`${pageCss.bulk} ${pageCss.row}`} ready={!save.isPending} onSend={apply}>
      <span>
        <b>In {count(skus.length, 'product')}</b> set
      </span>
      <Choice
        bare
        label="Fact"
        value={field}
        options={MANY.map(f => [f.key, f.words])}
        onChoose={key => {
          setField(key);
          type(FIRST[kindOf(key)] ?? '');
        }}
      />
      to
      {kind === 'flag' || kind === 'stage' ? (
        <Choice
          bare
          label="Value"
          value={text}
          options={(kind === 'flag' ? ['yes', 'no'] : ['Live', 'Retired']).map(v => [v, v])}
          onChoose={type}
        />
      ) : (
        <Line bare width={12} label="Value" value={text} wrong={wrong} onType={type} />
      )}
      <Button type="submit" size="small" variant="contained" disabled={save.isPending}>
        Change
      </Button>
      <Button size="small" onClick={done}>
        Choose none
      </Button>
      <ProblemNote error={save.error} />
    </Form>
  );
}

type Read = { ok: true; value: FactValue } | { ok: false; problem: string };

/** A fact as it was typed. */
function factOf(kind: Kind, text: string, currency: string): Read {
  if (kind === 'flag') return { ok: true, value: text === 'yes' };
  if (kind === 'weight') return parseWeight(text);
  if (kind === 'money') return parseAmount(text, currency);
  if (kind === 'count') {
    const n = Number(text);
    if (text === '' || !Number.isFinite(n) || n < 0) return { ok: false, problem: 'A number.' };
    return { ok: true, value: n };
  }
  return { ok: true, value: text === '' ? null : text };
}
