import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { v7 } from 'uuid';
import { changed } from '../../asked.js';
import { Ask } from '../../parts/ask.js';
import { Choice, type Options } from '../../parts/Choice.js';
import { DayField } from '../../parts/DayField.js';
import { Line } from '../../parts/Line.js';
import { planBuild } from '../api.js';

interface Props {
  sku: string;
  name: string;
  suggested: number;
  leave: () => void;
  planned: (no: string) => void;
}

const SOURCES: Options<'pick' | 'bench'> = [
  ['pick', 'Its parts are reserved and picked like an order.'],
  ['bench', 'Its parts lie on the bench already.'],
];

/** Plans a build: how many, by when, at which bench, and what to mind. */
export function PlanBuild({ sku, name, suggested, leave, planned }: Props) {
  const [key] = useState(() => v7());
  const [quantity, setQuantity] = useState(String(Math.max(1, Math.min(suggested, 10_000))));
  const [due, setDue] = useState<string | null>(null);
  const [bench, setBench] = useState('');
  const [source, setSource] = useState<'pick' | 'bench'>('pick');
  const [instruction, setInstruction] = useState('');
  const client = useQueryClient();
  const plan = useMutation({
    mutationFn: () =>
      planBuild({
        key,
        sku,
        quantity: Number(quantity),
        due,
        bench,
        source,
        instruction,
      }),
    onSuccess: async ({ no }) => {
      await changed(client, 'builds', 'catalog', 'stock', 'orders');
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
      <Line label="How many" digits value={quantity} onType={setQuantity} />
      <DayField label="Due" value={due} onChange={setDue} />
      <Line label="Bench" capitals placeholder="BE-1" value={bench} onType={setBench} />
      <Choice
        label="Where the parts come from"
        fullWidth
        value={source}
        options={SOURCES}
        onChoose={setSource}
      />
      <Line label="What to mind" most={500} rows={2} value={instruction} onType={setInstruction} />
    </Ask>
  );
}
