import { can, type ParcelView } from '@auk/contract';
import { formatMoney } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { changed } from '../../asked.js';
import { Ask } from '../../parts/ask.js';
import { day } from '../../parts/format.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { say } from '../../parts/say.js';
import textCss from '../../parts/text.module.css';
import { Waiting } from '../../parts/Waiting.js';
import { useMe } from '../../people/useMe.js';
import { Way } from '../../tracking/parts/Way.js';
import { decideLabel, labelPath, parcelQuery, voidParcelLabel } from '../api.js';
import css from '../parcels.module.css';
import { Elsewhere } from './Elsewhere.js';
import { ReturnLabel } from './ReturnLabel.js';

/** A parcel looked into: where it goes, what is in it, what was bought for it, and what can be done. */
export function InsideParcel({ no }: { no: string }) {
  const parcel = useQuery(parcelQuery(no));
  if (!parcel.data) return <Waiting error={parcel.error} />;
  const p = parcel.data;
  return (
    <div className={css.inside}>
      <section>
        <h3>To</h3>
        {p.address.map(l => (
          <div key={l}>{l}</div>
        ))}
        <Button size="small" color="secondary" onClick={() => void copy(p.address)}>
          Copy the address
        </Button>
      </section>
      <section>
        <h3>In it</h3>
        {p.contents.map(c => (
          <div key={c.sku}>
            {c.quantity} × {c.name} <span className={textCss.code}>{c.sku}</span>
          </div>
        ))}
        {p.contents.length === 0 && (
          <span className={textCss.quiet}>Nothing that is counted here any more.</span>
        )}
      </section>
      <Label parcel={p} />
      {p.state === 'departed' && <Way no={no} />}
      <Acts parcel={p} />
    </div>
  );
}

async function copy(address: string[]): Promise<void> {
  await navigator.clipboard.writeText(address.join('\n'));
  say('The address is copied.');
}

function Label({ parcel: { label: l, before, promised } }: { parcel: ParcelView }) {
  return (
    <section>
      <h3>Label</h3>
      {l ? (
        <>
          <div>
            {l.carrierName}, {l.service}
            {l.elsewhere && ', bought elsewhere'}
          </div>
          <dl className={css.charges}>
            {l.charges.map(c => (
              <div key={c.name} style={{ display: 'contents' }}>
                <dt>{c.name}</dt>
                <dd>{formatMoney(c.minor, l.currency)}</dd>
              </div>
            ))}
            <dt>together</dt>
            <dd>{formatMoney(l.minor, l.currency)}</dd>
          </dl>
          <div className={textCss.quiet}>
            arrives {day(l.arrives)}
            {promised && `, promised for ${day(promised)}`}
          </div>
          {l.why && <div className={textCss.risk}>! {l.why}</div>}
        </>
      ) : (
        <span className={textCss.quiet}>None yet.</span>
      )}
      {before.map(b => (
        <div key={b.says} className={textCss.quiet}>
          Before: {b.says}
        </div>
      ))}
    </section>
  );
}

type Asking = 'void' | 'elsewhere' | null;

function Acts({ parcel: p }: { parcel: ParcelView }) {
  const me = useMe();
  const client = useQueryClient();
  const [asking, setAsking] = useState<Asking>(null);
  const after = async () => {
    setAsking(null);
    await changed(client, 'parcels', 'orders', 'claims');
  };
  const giveBack = useMutation({ mutationFn: () => voidParcelLabel(p.no), onSuccess: after });
  const decide = useMutation({ mutationFn: (what: string) => decideLabel(p.no, what), onSuccess: after });
  const state = p.label?.state;
  const here = p.state !== 'departed' && p.state !== 'handed over';
  const packed = p.state === 'packed';
  return (
    <section className={css.acts}>
      {packed && can(me, 'pack') && (
        <Button component={Link} to={`/parcels/compare?parcel=${p.no}`} variant="outlined" color="secondary">
          Compare services
        </Button>
      )}
      {packed && can(me, 'pack') && (
        <Button variant="outlined" color="secondary" onClick={() => setAsking('elsewhere')}>
          Label bought elsewhere
        </Button>
      )}
      {state === 'bought' && !p.label!.elsewhere && can(me, 'labels.print') && (
        <span className={pageCss.inline}>
          Print again:
          {PAPERS.map(([paper, words]) => (
            <Button key={paper} size="small" color="secondary" href={labelPath(p.no, paper)} target="_blank">
              {words}
            </Button>
          ))}
        </span>
      )}
      {p.papers && !['being packed', 'packed'].includes(p.state) && can(me, 'labels.print') && (
        <Button
          href={`/api/v1/parcels/${p.no}/customs.pdf`}
          target="_blank"
          variant="outlined"
          color="secondary"
        >
          Papers that go with it
        </Button>
      )}
      {p.state === 'departed' && can(me, 'returns.take') && (
        <Button component={Link} to={`/parcels/returns?code=${p.no}`} variant="outlined" color="secondary">
          It came back
        </Button>
      )}
      {state === 'bought' && here && can(me, 'labels.void') && (
        <Button variant="outlined" color="error" onClick={() => setAsking('void')}>
          Void the label
        </Button>
      )}
      <ReturnLabel parcel={p} done={after} />
      {(state === 'doubtful' || p.returnLabel?.state === 'doubtful') && can(me, 'labels.decide') && (
        <>
          <p>
            Nobody can prove whether it was bought. Ask{' '}
            {(state === 'doubtful' ? p.label! : p.returnLabel!).carrierName}, then decide.
          </p>
          <Button variant="contained" disabled={decide.isPending} onClick={() => decide.mutate('look')}>
            Look into its books again
          </Button>
          <Button
            variant="outlined"
            color="secondary"
            disabled={decide.isPending}
            onClick={() => decide.mutate('ask anew')}
          >
            It has none: buy it now
          </Button>
          <Button
            variant="outlined"
            color="error"
            disabled={decide.isPending}
            onClick={() => decide.mutate('give up')}
          >
            Give it up
          </Button>
        </>
      )}
      <ProblemNote error={decide.error} />
      {asking === 'void' && (
        <Ask
          title={`Void the label of ${p.no}?`}
          act="Void it"
          danger
          busy={giveBack.isPending}
          error={giveBack.error}
          onAct={() => giveBack.mutate()}
          onLeave={() => setAsking(null)}
        >
          <p>
            {p.label!.elsewhere
              ? `${p.tracking} stops counting here. Give it back where it was bought.`
              : `${p.label!.carrierName} is asked to take ${p.tracking} back and to return ${formatMoney(p.label!.minor, p.label!.currency)}.`}{' '}
            Take the old label off the parcel; then another can be bought.
          </p>
        </Ask>
      )}
      {asking === 'elsewhere' && <Elsewhere parcel={p} done={after} leave={() => setAsking(null)} />}
    </section>
  );
}

/** How labels lie on paper. */
export const PAPERS = [
  ['4x6', '4 × 6 in'],
  ['half', 'half a sheet'],
  ['two', 'two on a sheet'],
] as const;
