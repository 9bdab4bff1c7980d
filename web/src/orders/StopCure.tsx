import { LinkAnswer, ListingRow, OrderView, ProductRow, pageOf } from '@auk/contract';
import { type StopReason, SURE_FROM } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { get, post, send } from '../api.js';
import { Picture } from '../parts/picture.js';
import { ProblemNote } from '../parts/problem.js';

/** Why an order is Stopped, with its cure: one press where one press can be enough. */
export function StopNote({ stop, order }: { stop: StopReason; order: OrderView }) {
  return (
    <div className="stopnote">
      <p>
        <span className="stop" aria-hidden="true">
          ▲
        </span>{' '}
        {stop.says}
      </p>
      <Cure stop={stop} order={order} />
    </div>
  );
}

function Cure({ stop, order }: { stop: StopReason; order: OrderView }) {
  switch (stop.code) {
    case 'unlinked-listing':
      return <LinkListing channelSku={stop.subject} />;
    case 'no-code':
      return <GiveCode sku={stop.subject} />;
    case 'bad-postcode':
    case 'bad-country':
    case 'incomplete-address':
    case 'long-address':
    case 'no-phone':
      return <MendAddress stop={stop} order={order} />;
    case 'duplicate':
      return (
        <Press
          words="It is an order of its own"
          path={`orders/${order.row.id}/accept`}
          body={{ code: 'duplicate', subject: stop.subject }}
        />
      );
    case 'unpaid':
      return <Press words="It is paid" path={`orders/${order.row.id}/paid`} body={{}} />;
    case 'retired-product':
      return <Revive sku={stop.subject} />;
    case 'channel-differs':
      return <Decide stop={stop} order={order} />;
    case 'no-customs':
      return <Customs sku={stop.subject} />;
    default:
      return <p className="quiet">{stop.cure}</p>;
  }
}

/** Does something and has everything asked again, so that what it freed is seen at once. */
function useCure<T>(act: (value: T) => Promise<unknown>) {
  const client = useQueryClient();
  return useMutation({ mutationFn: act, onSuccess: () => client.invalidateQueries() });
}

function Press({ words, path, body, plain }: { words: string; path: string; body: object; plain?: boolean }) {
  const act = useCure(() => send(path, body));
  return (
    <>
      <Button
        size="small"
        variant={plain ? 'text' : 'outlined'}
        disabled={act.isPending}
        onClick={() => act.mutate(undefined)}
      >
        {words}
      </Button>
      <ProblemNote error={act.error} />
    </>
  );
}

function LinkListing({ channelSku }: { channelSku: string }) {
  const listing = useQuery({
    queryKey: ['listings', 'cure', channelSku],
    queryFn: () => get(pageOf(ListingRow), `listings?state=unlinked&words=${encodeURIComponent(channelSku)}`),
  });
  const products = useQuery({
    queryKey: ['products', ''],
    queryFn: () => get(pageOf(ProductRow), 'products'),
  });
  const [another, setAnother] = useState(false);
  const [sku, setSku] = useState('');
  const link = useCure((to: { sku: string; units: number }) =>
    post(LinkAnswer, 'listings/link-sku', { channelSku, ...to }),
  );
  const row = listing.data?.rows.find(l => l.channelSku === channelSku);
  const best = row?.proposals[0];
  return (
    <div className="cure">
      {row && row.waiting > 1 && (
        <p>
          Linking it frees <b>{row.waiting} orders</b>.
        </p>
      )}
      {best && !another && (
        <div className="proposal">
          <Picture name={best.picture} size={32} />
          <div className="grow">
            <b>{best.name}</b> <span className="code">{best.sku}</span>
            {best.units > 1 && `, ${best.units} of it`}
            <div className="quiet">
              {best.why.join('; ')}
              {best.score < SURE_FROM && '; look twice'}
            </div>
          </div>
          <Button
            size="small"
            variant="outlined"
            disabled={link.isPending}
            onClick={() => link.mutate({ sku: best.sku, units: best.units })}
          >
            Link
          </Button>
          <Button size="small" variant="outlined" onClick={() => setAnother(true)}>
            Another product
          </Button>
        </div>
      )}
      {(another || (listing.isSuccess && !best)) && (
        <div className="linkform">
          <select aria-label="Product to link" value={sku} onChange={e => setSku(e.target.value)}>
            <option value="">Choose a product …</option>
            {products.data?.rows
              .filter(p => p.stage !== 'Retired')
              .map(p => (
                <option key={p.sku} value={p.sku}>
                  {p.name} ({p.sku})
                </option>
              ))}
          </select>
          <Button
            variant="outlined"
            size="small"
            disabled={sku === '' || link.isPending}
            onClick={() => link.mutate({ sku, units: 1 })}
          >
            Link
          </Button>
          <Link to={`/products/listings?words=${encodeURIComponent(channelSku)}`}>All listings</Link>
        </div>
      )}
      <ProblemNote error={link.error} />
    </div>
  );
}

function GiveCode({ sku }: { sku: string }) {
  const [code, setCode] = useState('');
  const give = useCure(() => send(`products/${encodeURIComponent(sku)}/codes`, { code }));
  return (
    <form
      className="linkform"
      onSubmit={e => {
        e.preventDefault();
        give.mutate(undefined);
      }}
    >
      <input
        aria-label={`Code of ${sku}`}
        placeholder="scan or type its code"
        value={code}
        onChange={e => setCode(e.target.value)}
      />
      <Button type="submit" variant="outlined" size="small" disabled={code.trim() === '' || give.isPending}>
        Give the code
      </Button>
      <Link to={`/products/${encodeURIComponent(sku)}`}>The product</Link>
      <ProblemNote error={give.error} />
    </form>
  );
}

function MendAddress({ stop, order }: { stop: StopReason; order: OrderView }) {
  const field = stop.subject as keyof OrderView['shipTo'];
  const [text, setText] = useState(order.shipTo[field] ?? '');
  const mend = useCure(() =>
    send(`orders/${order.row.id}/edit`, {
      version: order.version,
      shipTo: { ...order.shipTo, [field]: text },
    }),
  );
  return (
    <form
      className="linkform"
      onSubmit={e => {
        e.preventDefault();
        mend.mutate(undefined);
      }}
    >
      <input aria-label={`Correct ${field}`} value={text} onChange={e => setText(e.target.value)} />
      <Button
        type="submit"
        variant="outlined"
        size="small"
        disabled={text === order.shipTo[field] || mend.isPending}
      >
        Correct it
      </Button>
      <span className="quiet">{stop.cure}</span>
      <ProblemNote error={mend.error} />
    </form>
  );
}

function Revive({ sku }: { sku: string }) {
  const revive = useCure(() => send('products/edit', { skus: [sku], fields: { stage: 'Live' } }));
  return (
    <>
      <Button
        size="small"
        variant="outlined"
        disabled={revive.isPending}
        onClick={() => revive.mutate(undefined)}
      >
        Make it live again
      </Button>
      <ProblemNote error={revive.error} />
    </>
  );
}

function Decide({ stop, order }: { stop: StopReason; order: OrderView }) {
  const difference = order.differences.find(d => stop.says.includes(d.words) && stop.says.includes(d.theirs));
  if (!difference) return <p className="quiet">{stop.cure}</p>;
  const path = `orders/${order.row.id}/differences/${difference.id}`;
  return (
    <div className="row" style={{ gap: 8 }}>
      <Press words={`Take “${difference.theirs}”`} path={path} body={{ take: true }} />
      <Press words={`Keep “${difference.ours}”`} path={path} body={{ take: false }} />
    </div>
  );
}

function Customs({ sku }: { sku: string }) {
  const [code, setCode] = useState('');
  const [origin, setOrigin] = useState('US');
  const save = useCure(() => send('products/edit', { skus: [sku], fields: { customsCode: code, origin } }));
  return (
    <form
      className="linkform"
      onSubmit={e => {
        e.preventDefault();
        save.mutate(undefined);
      }}
    >
      <input
        aria-label={`Customs code of ${sku}`}
        placeholder="customs code, 6 digits or more"
        value={code}
        onChange={e => setCode(e.target.value)}
      />
      <input
        aria-label={`Origin of ${sku}`}
        style={{ width: 60 }}
        value={origin}
        onChange={e => setOrigin(e.target.value)}
      />
      <Button type="submit" variant="outlined" size="small" disabled={code.trim() === '' || save.isPending}>
        Save
      </Button>
      <ProblemNote error={save.error} />
    </form>
  );
}
