import { OrderView } from '@auk/contract';
import { parseAmount, parseRate, parseWeight } from '@auk/core';
import Button from '@mui/material/Button';
import { useState } from 'react';
import { Choice } from '../../parts/Choice.js';
import { Form } from '../../parts/Form.js';
import { Line } from '../../parts/Line.js';
import css from '../orders.module.css';
import type { Save } from '../useOrderEdit.js';

type All = 'off' | 'up' | 'amount' | 'tax' | 'weight' | 'each';

const ALL: [All, words: string, hint: string][] = [
  ['off', 'take off, in percent', '10 %'],
  ['up', 'put on, in percent', '5 %'],
  ['amount', 'put on each price', '-0.50'],
  ['tax', 'set the tax rate', '7.25 %'],
  ['each', 'share out a weight', '12 lb'],
  ['weight', 'declare the whole weight', '12 lb'],
];

/** One act over all lines at once. */
export function AllLines({ order, save }: { order: OrderView; save: Save }) {
  const [act, setAct] = useState<All>('off');
  const [text, setText] = useState('');
  const [wrong, setWrong] = useState<string | null>(null);
  const apply = () => {
    const read = editOf(act, text, order.row.currency);
    if (typeof read === 'string') return setWrong(read);
    setText('');
    save(read);
  };
  return (
    <Form className={css.all} ready={text.trim() !== ''} onSend={apply}>
      All lines:{' '}
      <Choice
        bare
        label="Act on all lines"
        value={act}
        options={ALL.map(([value, words]) => [value, words])}
        onChoose={setAct}
      />
      <Line
        bare
        width={6}
        label="By how much"
        placeholder={ALL.find(([a]) => a === act)![2]}
        value={text}
        wrong={wrong}
        onType={typed => {
          setWrong(null);
          setText(typed);
        }}
      />
      <Button type="submit" size="small" variant="outlined" color="secondary" disabled={text.trim() === ''}>
        Apply
      </Button>
    </Form>
  );
}

/** What an act over all lines comes to, or what is wrong with what was typed. */
function editOf(act: All, text: string, currency: string): Parameters<Save>[0] | string {
  if (act === 'weight' || act === 'each') {
    const mg = parseWeight(text);
    if (!mg.ok) return mg.problem;
    return act === 'weight' ? { weightOverrideMg: mg.value } : { all: { type: 'weight', mg: mg.value } };
  }
  if (act === 'amount') {
    const amount = parseAmount(text, currency);
    return amount.ok ? { all: { type: 'amount', minor: amount.value } } : `${amount.problem}.`;
  }
  const ppm = parseRate(text);
  if (ppm === null || ppm < 0) return 'A percentage such as 10 or 7.25.';
  return { all: act === 'tax' ? { type: 'tax', ppm } : { type: 'percent', ppm: act === 'off' ? -ppm : ppm } };
}
