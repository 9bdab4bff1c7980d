import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { changed } from '../../asked.js';
import { Ask } from '../../parts/ask.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { centerStockQuery, centersQuery, connectCenter } from '../api.js';

/** Fulfillment centers that send orders for the house, and what lies there. */
export function Centers({ can }: { can: boolean }) {
  const centers = useQuery(centersQuery);
  const [looked, setLooked] = useState<string | null>(null);
  const [making, setMaking] = useState(false);
  if (!centers.data || (centers.data.length === 0 && !can)) return null;
  return (
    <section className={pageCss.panel} aria-label="Fulfillment centers">
      <h2>Fulfillment centers</h2>
      {centers.data.length === 0 && (
        <p className={textCss.quiet}>None is connected. One can send what lies there, by a rule.</p>
      )}
      {centers.data.map(c => (
        <div key={c.name}>
          <b>{c.name}</b> <span className={textCss.quiet}>{c.address}</span>{' '}
          <Button size="small" onClick={() => setLooked(looked === c.name ? null : c.name)}>
            What lies there
          </Button>
          {looked === c.name && <Stock name={c.name} />}
        </div>
      ))}
      {can && (
        <Button size="small" variant="outlined" onClick={() => setMaking(true)}>
          Connect a center
        </Button>
      )}
      {making && <Connect leave={() => setMaking(false)} />}
    </section>
  );
}

function Stock({ name }: { name: string }) {
  const stock = useQuery(centerStockQuery(name));
  return (
    <>
      <ProblemNote error={stock.error} />
      <ul>
        {stock.data?.rows.map(r => (
          <li key={r.code}>
            <span className={textCss.code}>{r.code}</span> {count(r.units, 'unit')}
          </li>
        ))}
      </ul>
    </>
  );
}

function Connect({ leave }: { leave: () => void }) {
  const client = useQueryClient();
  const [name, setName] = useState('');
  const [address, setAddress] = useState('');
  const [key, setKey] = useState('');
  const connect = useMutation({
    mutationFn: () => connectCenter({ name, address, key }),
    onSuccess: async () => {
      await changed(client, 'purchases');
      leave();
    },
  });
  return (
    <Ask
      title="Connect a fulfillment center"
      act="Connect"
      ready={name.trim() !== '' && address.trim() !== ''}
      busy={connect.isPending}
      error={connect.error}
      onAct={() => connect.mutate()}
      onLeave={leave}
    >
      <Line label="Its name" autoFocus value={name} onType={setName} />
      <Line label="Web address" value={address} onType={setAddress} />
      <Line label="Key" value={key} onType={setKey} />
    </Ask>
  );
}
