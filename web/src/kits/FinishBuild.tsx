import { BuildView, PlaceView } from '@auk/contract';
import { canonicalCode, count } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { v7 } from 'uuid';
import { get, send } from '../api.js';
import { ProblemNote } from '../parts/problem.js';
import { useScanner } from '../scans/useScanner.js';

interface Spoiled {
  sku: string;
  quantity: string;
  why: string;
}

/** Finishes a portion. Scanning the kit's own code counts one made; scanning a place says where they are put. */
export function FinishBuild({ build: b }: { build: BuildView }) {
  const [key, setKey] = useState(() => v7());
  const [made, setMade] = useState('');
  const [to, setTo] = useState(b.putAway?.code ?? '');
  const [spoiled, setSpoiled] = useState<Spoiled[]>([]);
  const [says, setSays] = useState('');
  const client = useQueryClient();
  const finish = useMutation({
    mutationFn: () =>
      send(`builds/${b.no}/finish`, {
        key,
        made: Number(made || 0),
        to,
        scrapped: spoiled.map(s => ({ ...s, quantity: Number(s.quantity) })),
      }),
    onSuccess: async () => {
      setKey(v7());
      setMade('');
      setSpoiled([]);
      setSays('');
      await client.invalidateQueries();
    },
  });
  const place = useMutation({
    mutationFn: (code: string) => get(PlaceView, `places/${encodeURIComponent(code)}`),
    onSuccess: found => {
      setTo(found.code);
      setSays(`They go to ${found.code}.`);
    },
    onError: (_, code) =>
      setSays(`${code.slice(0, 30)} is neither this kit nor a place. Scan the kit or the place.`),
  });
  useScanner(text => {
    const code = canonicalCode(text);
    if (b.codes.includes(code) || code === b.sku) {
      setMade(n => String(Number(n || 0) + 1));
      setSays('One more made.');
    } else place.mutate(code);
  });
  const change = (i: number, more: Partial<Spoiled>) =>
    setSpoiled(spoiled.map((s, k) => (k === i ? { ...s, ...more } : s)));
  return (
    <form
      className="finish"
      onSubmit={e => {
        e.preventDefault();
        finish.mutate();
      }}
    >
      <div className="line big">
        <label>
          Made now
          <input
            aria-label="Made now"
            inputMode="numeric"
            placeholder={String(b.canMake)}
            value={made}
            onChange={e => setMade(e.target.value.replace(/\D/g, ''))}
          />
        </label>
        <label>
          Put in {b.putAway && `(proposed: ${b.putAway.why})`}
          <input
            aria-label="Put in"
            style={{ width: 160 }}
            value={to}
            onChange={e => setTo(e.target.value.toUpperCase())}
          />
        </label>
        <Button
          type="submit"
          variant={b.canMake > 0 ? 'contained' : 'outlined'}
          disabled={finish.isPending || (Number(made || 0) === 0 && spoiled.length === 0)}
        >
          Into stock
        </Button>
        <a
          href={`/api/v1/products/${encodeURIComponent(b.sku)}/labels.pdf?form=thermal&count=${Math.max(1, Number(made || b.canMake || 1))}`}
          target="_blank"
          rel="noreferrer"
        >
          Print {count(Math.max(1, Number(made || b.canMake || 1)), 'kit label')}
        </a>
      </div>
      {spoiled.map((s, i) => (
        <div className="line" key={`spoiled ${i + 1}`}>
          <label>
            Spoiled
            <input
              aria-label={`Spoiled units ${i + 1}`}
              inputMode="numeric"
              style={{ width: 70 }}
              value={s.quantity}
              onChange={e => change(i, { quantity: e.target.value.replace(/\D/g, '') })}
            />
          </label>
          <select
            aria-label={`Spoiled part ${i + 1}`}
            value={s.sku}
            onChange={e => change(i, { sku: e.target.value })}
          >
            {b.lines.map(l => (
              <option key={l.sku} value={l.sku}>
                {l.name}
              </option>
            ))}
          </select>
          <label className="grow">
            Why
            <input
              aria-label={`Why spoiled ${i + 1}`}
              value={s.why}
              onChange={e => change(i, { why: e.target.value })}
            />
          </label>
        </div>
      ))}
      <div className="row">
        <Button
          size="small"
          onClick={() => setSpoiled([...spoiled, { sku: b.lines[0]!.sku, quantity: '1', why: '' }])}
        >
          A part was spoiled
        </Button>
        <span className="quiet" role="status">
          {says || 'Scan the kit’s own code for each one made, and the place where they go.'}
        </span>
      </div>
      <ProblemNote error={finish.error} />
    </form>
  );
}
