import { KitView } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { changed } from '../../asked.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { Tick } from '../../parts/Tick.js';
import textCss from '../../parts/text.module.css';
import { moveOrders } from '../api.js';

/** Open orders that follow an older recipe: they keep it, until some are chosen and moved knowingly. */
export function OlderOrders({ kit, desk }: { kit: KitView; desk: boolean }) {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const client = useQueryClient();
  const move = useMutation({
    mutationFn: () => moveOrders(kit.sku, [...chosen]),
    onSuccess: async () => {
      setChosen(new Set());
      await changed(client, 'builds', 'catalog', 'stock', 'orders');
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
      <p className={textCss.quiet}>
        They keep the parts they came with. Chosen ones can be moved to the newest version.
      </p>
      <ProblemNote error={move.error} />
      {move.data && <p role="status">{count(move.data.moved, 'order')} moved.</p>}
      <ul className={textCss.plain}>
        {kit.older.slice(0, 60).map(o => (
          <li key={o.id}>
            {desk && (
              <Tick
                bare
                label={`Choose ${o.channelNumber}`}
                checked={chosen.has(o.id)}
                onTick={() => toggle(o.id)}
              />
            )}{' '}
            <Link className={`${textCss.code} ${textCss.name}`} to={`/orders/${o.id}`}>
              {o.channelNumber}
            </Link>{' '}
            <span className={textCss.quiet}>
              {o.stage}
              {o.version && `, version ${o.version}`}
            </span>
          </li>
        ))}
      </ul>
      {desk && kit.older.length > 0 && (
        <div className={pageCss.row} style={{ gap: 8, marginTop: 8 }}>
          <Button size="small" onClick={() => setChosen(new Set(kit.older.map(o => o.id)))}>
            Choose all
          </Button>
          <Button
            size="small"
            variant="outlined"
            color="secondary"
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
