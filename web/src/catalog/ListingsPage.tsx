import { ChannelView, can, LinkAnswer, ListingRow, Page, Person, ProductRow, pageOf } from '@auk/contract';
import { count, formatMoney, SURE_FROM } from '@auk/core';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useState } from 'react';
import { Link } from 'react-router';
import { get, post } from '../api.js';
import { ExportLinks } from '../imports/ExportLinks.js';
import { Picture } from '../parts/picture.js';
import { ProblemNote } from '../parts/problem.js';
import { useNearEnd } from '../parts/useNearEnd.js';
import { useQuestion } from '../parts/useQuestion.js';
import './catalog.css';

/** The link a person means for a listing: which product, how many units a sale. */
interface Meant {
  sku: string;
  units: number;
}

/** How the channels sell what we have: unlinked listings with proposals and their reasons, linked in one act. */
export default function ListingsPage({ me }: { me: Person }) {
  const { question, part, set } = useQuestion();
  const state = part('state') || 'unlinked';
  const client = useQueryClient();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [meant, setMeant] = useState<Record<string, Meant>>({});
  const channels = useQuery({ queryKey: ['channels'], queryFn: () => get(ChannelView.array(), 'channels') });
  const products = useQuery({
    queryKey: ['products', ''],
    queryFn: () => get(pageOf(ProductRow), 'products'),
  });
  const listings = useInfiniteQuery({
    queryKey: ['listings', question],
    queryFn: ({ pageParam }) =>
      get(
        pageOf(ListingRow),
        `listings?${question}${pageParam ? `&after=${encodeURIComponent(pageParam)}` : ''}`,
      ),
    initialPageParam: '',
    getNextPageParam: (last: Page<ListingRow>) => last.next,
  });
  useNearEnd(
    useCallback(() => void listings.fetchNextPage({ cancelRefetch: false }), [listings.fetchNextPage]),
    listings.hasNextPage && !listings.isFetchingNextPage,
  );
  const rows = listings.data?.pages.flatMap(p => p.rows) ?? [];
  const meaning = (l: ListingRow): Meant | null =>
    meant[l.id] ??
    (l.product
      ? { sku: l.product.sku, units: l.units }
      : l.proposals[0]
        ? { sku: l.proposals[0].sku, units: l.proposals[0].units }
        : null);
  const done = () => {
    setChosen(new Set());
    setMeant({});
    void client.invalidateQueries();
  };
  const link = useMutation({
    mutationFn: (links: { listingId: string; sku: string | null; units: number }[]) =>
      post(LinkAnswer, 'listings/link', { links }),
    onSuccess: done,
  });
  const make = useMutation({
    mutationFn: (listingIds: string[]) => post(LinkAnswer, 'listings/products', { listingIds }),
    onSuccess: done,
  });
  const answer = link.submittedAt > make.submittedAt ? link.data : make.data;
  const ready = rows.filter(l => chosen.has(l.id) && !l.product && meaning(l));
  const sure = rows.filter(l => !l.product && (l.proposals[0]?.score ?? 0) >= SURE_FROM);
  const desk = can(me, 'products.change');
  const toggle = (id: string) => {
    const next = new Set(chosen);
    if (!next.delete(id)) next.add(id);
    setChosen(next);
  };
  return (
    <>
      <div className="headline">
        <div className="grow">
          <h1>Listings</h1>
          <p className="quiet">
            How each channel sells what we have. Linking a listing lets its waiting orders go on at once.
          </p>
        </div>
        <TextField label="SKU or title" value={part('words')} onChange={e => set('words', e.target.value)} />
        {desk && (
          <Button component={Link} to="/bring-in?kind=listings" variant="outlined">
            Bring in
          </Button>
        )}
        {desk && state === 'unlinked' && (
          <Button
            variant="contained"
            disabled={ready.length === 0 || link.isPending}
            onClick={() => link.mutate(ready.map(l => ({ listingId: l.id, ...meaning(l)! })))}
          >
            Link {ready.length}
          </Button>
        )}
      </div>
      <div className="tools">
        <select
          aria-label="State"
          value={state}
          onChange={e => set('state', e.target.value === 'unlinked' ? '' : e.target.value)}
        >
          <option value="unlinked">unlinked</option>
          <option value="linked">linked</option>
          <option value="all">all</option>
        </select>
        <select aria-label="Channel" value={part('channel')} onChange={e => set('channel', e.target.value)}>
          <option value="">from every channel</option>
          {channels.data?.map(c => (
            <option key={c.code} value={c.code}>
              from {c.name}
            </option>
          ))}
        </select>
        {desk && state === 'unlinked' && sure.length > 0 && (
          <Button size="small" onClick={() => setChosen(new Set(sure.map(l => l.id)))}>
            Choose the {sure.length} that are nearly sure
          </Button>
        )}
        {desk && chosen.size > 0 && state === 'unlinked' && (
          <Button size="small" disabled={make.isPending} onClick={() => make.mutate([...chosen])}>
            Make {count(chosen.size, 'product')} of them
          </Button>
        )}
        <ExportLinks what="listings" question={question} />
      </div>
      <ProblemNote error={listings.error ?? link.error ?? make.error} />
      {answer && (
        <div className="bulk" role="status">
          <p>
            {answer.answers.filter(a => a.done).length} done, {count(answer.freed, 'order')} freed.
          </p>
          <ul className="answers">
            {answer.answers.map(a => (
              <li key={a.listingId} className={a.done ? '' : 'stop'}>
                <span className="code">{a.channelSku}</span> {a.done ? '✓' : '✕'} {a.says}
              </li>
            ))}
          </ul>
        </div>
      )}
      {listings.isSuccess && rows.length === 0 && (
        <p className="empty">
          {state === 'unlinked'
            ? 'Every listing is linked. New ones appear here when a channel sells something unknown.'
            : 'No listing is like this.'}
        </p>
      )}
      {rows.length > 0 && (
        <table className="list">
          <thead>
            <tr>
              {desk && state === 'unlinked' && <th />}
              <th>Listing</th>
              <th>Channel</th>
              <th className="num">Price</th>
              <th className="num">Waiting</th>
              <th>{state === 'unlinked' ? 'Which product' : 'Product'}</th>
              <th>{state === 'unlinked' ? 'Why' : 'For sale'}</th>
              {desk && state !== 'unlinked' && <th />}
            </tr>
          </thead>
          <tbody>
            {rows.map(l => (
              <tr key={l.id} className={chosen.has(l.id) ? 'chosen' : ''}>
                {desk && state === 'unlinked' && (
                  <td>
                    <input
                      type="checkbox"
                      aria-label={`Choose ${l.channelSku}`}
                      checked={chosen.has(l.id)}
                      onChange={() => toggle(l.id)}
                    />
                  </td>
                )}
                <td>
                  {l.title}
                  <div className="code quiet">
                    {l.channelSku} {l.gtin}
                  </div>
                </td>
                <td>{l.channel}</td>
                <td className="num">{l.priceMinor === null ? '' : formatMoney(l.priceMinor, l.currency)}</td>
                <td className="num">
                  {l.waiting > 0 ? <b className="stop">{count(l.waiting, 'order')}</b> : ''}
                </td>
                {l.product ? (
                  <td>
                    <Link to={`/products/${encodeURIComponent(l.product.sku)}`}>{l.product.name}</Link>{' '}
                    <span className="code quiet">{l.product.sku}</span>
                    {l.units > 1 && <b> × {l.units}</b>}
                    {l.product.stage === 'Retired' && <span className="stop"> ⊘ Retired</span>}
                  </td>
                ) : (
                  <Choice
                    listing={l}
                    meant={meaning(l)}
                    products={products.data?.rows ?? []}
                    can={desk}
                    set={m => setMeant({ ...meant, [l.id]: m })}
                  />
                )}
                <td className="quiet">
                  {l.product ? (
                    <>
                      <b>{l.forSale}</b> {l.pushed !== null && l.pushed !== l.forSale && `(${l.pushed} told)`}
                    </>
                  ) : meant[l.id] ? (
                    'chosen by you'
                  ) : l.proposals[0] ? (
                    <>
                      <b className={l.proposals[0].score >= SURE_FROM ? 'good' : 'risk'}>
                        {Math.round(l.proposals[0].score * 100)} %
                      </b>{' '}
                      {l.proposals[0].why.join('; ')}
                    </>
                  ) : (
                    'nothing here is like it'
                  )}
                </td>
                {desk && state !== 'unlinked' && (
                  <td>
                    {l.product && (
                      <Button
                        size="small"
                        onClick={() => link.mutate([{ listingId: l.id, sku: null, units: 1 }])}
                      >
                        Unlink
                      </Button>
                    )}
                  </td>
                )}
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}

/** The product meant for an unlinked listing: the best proposal until another is chosen. */
function Choice({
  listing: l,
  meant,
  products,
  can,
  set,
}: {
  listing: ListingRow;
  meant: Meant | null;
  products: ProductRow[];
  can: boolean;
  set: (m: Meant) => void;
}) {
  const picture = products.find(p => p.sku === meant?.sku)?.picture ?? null;
  const others = products.filter(p => p.stage !== 'Retired' && !l.proposals.some(x => x.sku === p.sku));
  return (
    <td>
      <div className="row" style={{ gap: 8 }}>
        <Picture name={picture} size={28} />
        <select
          aria-label={`Product for ${l.channelSku}`}
          disabled={!can}
          value={meant?.sku ?? ''}
          onChange={e => set({ sku: e.target.value, units: meant?.units ?? 1 })}
          style={{ maxWidth: 280 }}
        >
          {!meant && <option value="">Choose a product …</option>}
          <optgroup label="Alike">
            {l.proposals.map(p => (
              <option key={p.sku} value={p.sku}>
                {p.name} ({Math.round(p.score * 100)} %)
              </option>
            ))}
          </optgroup>
          <optgroup label="All products">
            {others.map(p => (
              <option key={p.sku} value={p.sku}>
                {p.name} ({p.sku})
              </option>
            ))}
          </optgroup>
        </select>
        <label className="quiet" style={{ whiteSpace: 'nowrap' }}>
          ×{' '}
          <input
            type="number"
            min={1}
            max={1000}
            aria-label={`Units of one sale of ${l.channelSku}`}
            disabled={!can || !meant}
            style={{ width: 52 }}
            value={meant?.units ?? 1}
            onChange={e =>
              meant && set({ ...meant, units: Math.max(1, Math.floor(Number(e.target.value) || 1)) })
            }
          />
        </label>
      </div>
    </td>
  );
}
