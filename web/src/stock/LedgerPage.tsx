import { LedgerPage as Ledger } from '@auk/contract';
import { useInfiniteQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import { Link, useParams } from 'react-router';
import { get } from '../api.js';
import { moment } from '../parts/format.js';
import { ProblemNote } from '../parts/problem.js';
import { useNearEnd } from '../parts/useNearEnd.js';
import { BalanceChart } from './BalanceChart.js';
import './stock.css';
import { WHY_WORDS } from './words.js';

/** A product's ledger: every move with why, who and document, and the balance over time. */
export default function LedgerPage() {
  const { sku } = useParams();
  const ledger = useInfiniteQuery({
    queryKey: ['ledger', sku],
    queryFn: ({ pageParam }) =>
      get(Ledger, `stock/ledger/${encodeURIComponent(sku!)}${pageParam ? `?before=${pageParam}` : ''}`),
    initialPageParam: 0,
    getNextPageParam: (last: Ledger) => last.next,
  });
  useNearEnd(
    useCallback(() => void ledger.fetchNextPage({ cancelRefetch: false }), [ledger.fetchNextPage]),
    ledger.hasNextPage && !ledger.isFetchingNextPage,
  );
  const first = ledger.data?.pages[0];
  if (!first) return <ProblemNote error={ledger.error} />;
  const rows = ledger.data!.pages.flatMap(p => p.rows);
  return (
    <>
      <div className="headline">
        <div className="grow">
          <h1>Ledger: {first.name}</h1>
          <p className="quiet">
            <Link className="code" to={`/products/${encodeURIComponent(first.sku)}`}>
              {first.sku}
            </Link>{' '}
            · <b>{first.onHand}</b> on hand, <b>{first.reserved}</b> promised to orders
          </p>
        </div>
      </div>
      <BalanceChart days={first.days} />
      {rows.length === 0 && (
        <p className="empty">It has never moved. Stock comes in by receiving, a build or a count.</p>
      )}
      {rows.length > 0 && (
        <table className="list">
          <thead>
            <tr>
              <th>When</th>
              <th>Why</th>
              <th>From</th>
              <th>To</th>
              <th>Lot</th>
              <th className="num">Units</th>
              <th className="num">On hand after</th>
              <th>Document</th>
              <th>Who</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(m => (
              <tr key={m.id}>
                <td>{moment(m.at)}</td>
                <td>
                  {WHY_WORDS[m.why] ?? m.why}
                  {m.reason && <div className="quiet">{m.reason}</div>}
                </td>
                <td className="code">{m.from}</td>
                <td className="code">{m.to}</td>
                <td className="code">{m.lot}</td>
                <td className="num">
                  {m.change === 0 ? (
                    <span className="quiet">{m.quantity} moved</span>
                  ) : (
                    <b className={m.change > 0 ? 'good' : ''}>
                      {m.change > 0 ? `+${m.change}` : `−${-m.change}`}
                    </b>
                  )}
                </td>
                <td className="num">{m.onHand}</td>
                <td>{m.document && <Link to={m.document.path}>{m.document.name}</Link>}</td>
                <td>{m.person ?? <span className="quiet">Auk</span>}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}
