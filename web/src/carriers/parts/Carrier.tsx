import type { CarrierView } from '@auk/contract';
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { changed } from '../../asked.js';
import { weight } from '../../parts/format.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { Tick } from '../../parts/Tick.js';
import textCss from '../../parts/text.module.css';
import { serveService } from '../api.js';
import css from '../carriers.module.css';
import { Account, NewAccount } from './Account.js';
import { Collections } from './Collections.js';

/** One carrier: its accounts with their sheets, its services, its collections. */
export function Carrier({ carrier: c, may, edit }: { carrier: CarrierView; may: boolean; edit: () => void }) {
  const client = useQueryClient();
  const [adding, setAdding] = useState(false);
  const serve = useMutation({
    mutationFn: ([service, inUse]: [string, boolean]) => serveService(c.code, service, inUse),
    onSettled: () => changed(client, 'carriers'),
  });
  return (
    <section className={css.carrier} aria-label={c.name}>
      <div className={css.name}>
        <h2>{c.name}</h2>
        <span className={`${textCss.stage} ${c.inUse ? textCss.good : ''}`}>
          {c.inUse ? '● in use' : '○ not in use'}
        </span>
        <span className={textCss.quiet}>
          {c.planUpToMg === null
            ? 'no order is planned with it before a label is bought'
            : `orders up to ${weight(c.planUpToMg)} are planned with it`}
        </span>
        <span className={pageCss.grow} />
        {may && (
          <>
            <Button size="small" variant="outlined" color="secondary" onClick={() => setAdding(true)}>
              Add an account
            </Button>
            <Button size="small" variant="outlined" color="secondary" onClick={edit}>
              Change
            </Button>
          </>
        )}
      </div>
      <div className={css.columns}>
        <div>
          <h3>Accounts</h3>
          {c.accounts.map(a => (
            <Account key={a.id} account={a} may={may} />
          ))}
        </div>
        <div>
          <h3>Services</h3>
          {c.services.map(s => (
            <div key={s.service}>
              <Tick label={s.name} checked={s.inUse} onTick={on => may && serve.mutate([s.service, on])} />
            </div>
          ))}
          {c.services.length === 0 && <p className={textCss.quiet}>Known when a rate sheet is taken in.</p>}
        </div>
        <div>
          <h3>Collections</h3>
          <Collections carrier={c} may={may} />
        </div>
      </div>
      <ProblemNote error={serve.error} />
      {adding && <NewAccount carrier={c} leave={() => setAdding(false)} />}
    </section>
  );
}
