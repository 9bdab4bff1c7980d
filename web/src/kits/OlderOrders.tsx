import { KitView, MovedOrders } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { post } from '../api.js';
import { ProblemNote } from '../parts/problem.js';

/** Open orders that follow an older recipe: they keep it, until some are chosen and moved knowingly. */
export function OlderOrders({ kit, desk }: { kit: KitView; desk: boolean }) {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const client = useQueryClient();
  const move = useMutation({
    mutationFn: () =>
      post(MovedOrders, `kits/${encodeURIComponent(kit.sku)}/orders`, { orderIds: [...chosen] }),
    onSuccess: async () => {
      setChosen(new Set());
      await client.invalidateQueries();
    },
  });
  if (kit.older.length === 0 && !move.data) return null;
  const toggle = (id: string) => {
    const next = new Set(chosen);
    if (!next.delete(id)) next.add(id);
    setChosen(next);
  };
  return (
    <section style={{ marginTop: 20 }}>
      <h2>{count(kit.older.length, 'open order')} with an older recipe</h2>
      <p className="quiet">
        They keep the parts they came with. Chosen ones can be moved to the newest version.
      </p>
      <ProblemNote error={move.error} />
      {move.data && <p role="status">{count(move.data.moved, 'order')} moved.</p>}
      <ul className="plain">
        {kit.older.slice(0, 60).map(o => (
          <li key={o.id}>
            {desk && (
              <input
                type="checkbox"
                aria-label={`Choose ${o.channelNumber}`}
                checked={chosen.has(o.id)}
                onChange={() => toggle(o.id)}
              />
            )}{' '}
            <Link className="code" style={{ color: 'inherit' }} to={`/orders/${o.id}`}>
              {o.channelNumber}
            </Link>{' '}
            <span className="quiet">
              {o.stage}
              {o.version && `, version ${o.version}`}
            </span>
          </li>
        ))}
      </ul>
      {desk && kit.older.length > 0 && (
        <div className="row" style={{ gap: 8, marginTop: 8 }}>
          <Button size="small" onClick={() => setChosen(new Set(kit.older.map(o => o.id)))}>
            Choose all
          </Button>
          <Button
            size="small"
            variant="outlined"
            disabled={chosen.size === 0 || move.isPending}
            onClick={() => move.mutate()}
          >
            Move {chosen.size} to the newest version
          </Button>
        </div>
      )}
    </section>
  );
}
