import { MadeNo } from '@auk/contract';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { v7 } from 'uuid';
import { post } from '../api.js';
import { Ask } from '../parts/ask.js';

interface Props {
  sku: string;
  name: string;
  suggested: number;
  leave: () => void;
  planned: (no: string) => void;
}

/** Plans a build: how many, by when, at which bench, and what to mind. */
export function PlanBuild({ sku, name, suggested, leave, planned }: Props) {
  const [key] = useState(() => v7());
  const [quantity, setQuantity] = useState(String(Math.max(1, Math.min(suggested, 10_000))));
  const [due, setDue] = useState('');
  const [bench, setBench] = useState('');
  const [source, setSource] = useState('pick');
  const [instruction, setInstruction] = useState('');
  const client = useQueryClient();
  const plan = useMutation({
    mutationFn: () =>
      post(MadeNo, 'builds', {
        key,
        sku,
        quantity: Number(quantity),
        due: due || null,
        bench,
        source,
        instruction,
      }),
    onSuccess: async ({ no }) => {
      await client.invalidateQueries();
      planned(no);
    },
  });
  return (
    <Ask
      title={`Build ${name}`}
      act="Plan it"
      ready={Number(quantity) > 0 && (source === 'pick' || bench !== '')}
      busy={plan.isPending}
      error={plan.error}
      onAct={() => plan.mutate()}
      onLeave={leave}
    >
      <p>
        Make{' '}
        <input
          aria-label="How many"
          inputMode="numeric"
          style={{ width: 80 }}
          value={quantity}
          onChange={e => setQuantity(e.target.value.replace(/\D/g, ''))}
        />{' '}
        by <input aria-label="Due" type="date" value={due} onChange={e => setDue(e.target.value)} /> at bench{' '}
        <input
          aria-label="Bench"
          placeholder="BE-1"
          style={{ width: 80 }}
          value={bench}
          onChange={e => setBench(e.target.value.toUpperCase())}
        />
      </p>
      <p style={{ marginTop: 12 }}>
        <select
          aria-label="Where the parts come from"
          value={source}
          onChange={e => setSource(e.target.value)}
        >
          <option value="pick">Its parts are reserved and picked like an order.</option>
          <option value="bench">Its parts lie on the bench already.</option>
        </select>
      </p>
      <p style={{ marginTop: 12 }}>
        <label htmlFor="instruction">What to mind</label>
        <br />
        <input
          id="instruction"
          style={{ width: '100%' }}
          maxLength={500}
          value={instruction}
          onChange={e => setInstruction(e.target.value)}
        />
      </p>
    </Ask>
  );
}
