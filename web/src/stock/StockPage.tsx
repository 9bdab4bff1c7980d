import { can, Page, Person, pageOf, ServedAgain, StockRow, StockSettings } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useState } from 'react';
import { Link } from 'react-router';
import { get, post, send } from '../api.js';
import { day } from '../parts/format.js';
import { Picture } from '../parts/picture.js';
import { ProblemNote } from '../parts/problem.js';
import { useNearEnd } from '../parts/useNearEnd.js';
import { useQuestion } from '../parts/useQuestion.js';
import { CarryStock, type CarryWhat } from './CarryStock.js';
import { StockNav } from './StockNav.js';
import './stock.css';
import { KIND_WORDS } from './words.js';

/** Stock by product, place and lot: what lies where, what is promised, what expires; moved and written off with a reason. */
export default function StockPage({ me }: { me: Person }) {
  const { question, part, set } = useQuestion();
  const [carry, setCarry] = useState<CarryWhat | null>(null);
  const stock = useInfiniteQuery({
    queryKey: ['stock', question],
    queryFn: ({ pageParam }) =>
      get(pageOf(StockRow), `stock?${question}${pageParam ? `&after=${encodeURIComponent(pageParam)}` : ''}`),
    initialPageParam: '',
    getNextPageParam: (last: Page<StockRow>) => last.next,
  });
  useNearEnd(
    useCallback(() => void stock.fetchNextPage({ cancelRefetch: false }), [stock.fetchNextPage]),
    stock.hasNextPage && !stock.isFetchingNextPage,
  );
  const rows = stock.data?.pages.flatMap(p => p.rows) ?? [];
  const mayWriteOff = can(me, 'stock.write-off');
  return (
    <>
      <StockNav />
      <div className="headline">
        <div className="grow">
          <h1>Stock</h1>
          <ReserveMode lead={can(me, 'stock.serve')} />
        </div>
        <TextField
          label="SKU, name, place or lot"
          value={part('words')}
          onChange={e => set('words', e.target.value)}
        />
        {mayWriteOff && (
          <Button component={Link} to="/bring-in?kind=stock" variant="outlined">
            Bring in a count
          </Button>
        )}
      </div>
      <div className="tools">
        <select aria-label="Kind of place" value={part('kind')} onChange={e => set('kind', e.target.value)}>
          <option value="">in every kind of place</option>
          {Object.entries(KIND_WORDS).map(([kind, words]) => (
            <option key={kind} value={kind}>
              {words}
            </option>
          ))}
        </select>
        <label>
          <input
            type="checkbox"
            checked={part('expiring') === 'yes'}
            onChange={e => set('expiring', e.target.checked ? 'yes' : '')}
          />{' '}
          only what expires within 60 days, or has
        </label>
      </div>
      <ProblemNote error={stock.error} />
      {carry && <CarryStock what={carry} leave={() => setCarry(null)} />}
      {stock.isSuccess && rows.length === 0 && (
        <p className="empty">
          Nothing like that lies in the house. Stock comes in by receiving, a build or a count.
        </p>
      )}
      {rows.length > 0 && (
        <table className="list">
          <thead>
            <tr>
              <th>Product</th>
              <th>Place</th>
              <th>Lot and expiry</th>
              <th className="num">On hand</th>
              <th className="num">On lists</th>
              <th className="num">Free here</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {rows.map(r => (
              <tr key={r.key} className="opens">
                <td>
                  <div className="row" style={{ gap: 8 }}>
                    <Picture name={r.picture} size={26} />
                    <span>
                      <Link className="plainlink" to={`/products/${encodeURIComponent(r.sku)}/ledger`}>
                        {r.name}
                      </Link>{' '}
                      <span className="code quiet">{r.sku}</span>
                    </span>
                  </div>
                </td>
                <td>
                  <Link
                    className="code"
                    style={{ color: 'inherit' }}
                    to={`/places/${encodeURIComponent(r.place)}`}
                  >
                    {r.place}
                  </Link>{' '}
                  <span className="quiet">{KIND_WORDS[r.kind]}</span>
                </td>
                <td>
                  <span className="code">{r.lot}</span> <Expiry row={r} />
                </td>
                <td className="num">
                  <b>{r.onHand}</b>
                </td>
                <td className="num">{r.reserved || ''}</td>
                <td className="num">
                  {r.kind === 'quarantine' || r.state === 'expired' ? 'not promised' : r.free}
                </td>
                <td className="acts">
                  <button type="button" onClick={() => setCarry({ act: 'move', row: r })}>
                    Move
                  </button>
                  {mayWriteOff && (
                    <button type="button" onClick={() => setCarry({ act: 'write off', row: r })}>
                      Write off
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}

function Expiry({ row: r }: { row: StockRow }) {
  if (r.state === 'expired') return <span className="stop">✕ expired {day(r.expiry)}</span>;
  if (r.state === 'soon') return <span className="risk">! expires {day(r.expiry)}</span>;
  return <span className="quiet">{r.expiry && `expires ${day(r.expiry)} ${r.expiry.slice(0, 4)}`}</span>;
}

/** How orders are promised stock, as the lead sets it. */
function ReserveMode({ lead }: { lead: boolean }) {
  const client = useQueryClient();
  const mode = useQuery({
    queryKey: ['stock', 'settings'],
    queryFn: () => get(StockSettings, 'stock/settings'),
  });
  const again = useMutation({
    mutationFn: () => post(ServedAgain, 'stock/serve-again'),
    onSettled: () => client.invalidateQueries(),
  });
  const save = useMutation({
    mutationFn: (reserveMode: string) => send('stock/settings', { reserveMode }),
    onSettled: () => client.invalidateQueries(),
  });
  return (
    <p className="quiet">
      New goods are promised by departure, then promised day, then age.{' '}
      <select
        aria-label="How orders are promised stock"
        value={mode.data?.reserveMode ?? 'partly'}
        disabled={!lead}
        onChange={e => save.mutate(e.target.value)}
      >
        <option value="partly">An order takes what there is.</option>
        <option value="whole">An order is promised everything or nothing.</option>
      </select>
      {lead && (
        <Button size="small" disabled={again.isPending} onClick={() => again.mutate()}>
          Give scarce goods out anew by urgency
        </Button>
      )}
      {again.data && (
        <span role="status">
          {' '}
          {count(again.data.cleared, 'order')} Clear by it, {count(again.data.shorted, 'order')} Short by it.
        </span>
      )}
    </p>
  );
}
