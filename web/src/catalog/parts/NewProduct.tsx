import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { changed } from '../../asked.js';
import { Ask } from '../../parts/ask.js';
import { Choice, type Options } from '../../parts/Choice.js';
import { Line } from '../../parts/Line.js';
import { makeProduct } from '../api.js';

const KINDS: Options = [
  ['piece', 'a piece'],
  ['kit', 'a kit, made ahead'],
  ['bundle', 'a bundle, gathered at picking'],
];

export function NewProduct({ leave }: { leave: () => void }) {
  const [sku, setSku] = useState('');
  const [name, setName] = useState('');
  const [kind, setKind] = useState('piece');
  const navigate = useNavigate();
  const client = useQueryClient();
  const make = useMutation({
    mutationFn: () => makeProduct({ sku, fields: { name, kind } }),
    onSuccess: () => {
      void changed(client, 'catalog');
      void navigate(`/products/${encodeURIComponent(sku.toUpperCase())}`);
    },
  });
  return (
    <Ask
      title="New product"
      act="Make it"
      ready={sku.trim() !== '' && name.trim() !== ''}
      busy={make.isPending}
      error={make.error}
      onLeave={leave}
      onAct={() => make.mutate()}
    >
      <Line label="SKU" autoFocus value={sku} onType={setSku} />
      <Line label="Name" value={name} onType={setName} />
      <Choice label="Kind" value={kind} options={KINDS} onChoose={setKind} fullWidth />
    </Ask>
  );
}
