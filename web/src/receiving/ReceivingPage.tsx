import { can, Person, PurchaseOrderRow } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { get, send } from '../api.js';
import { Ask } from '../parts/ask.js';
import { day } from '../parts/format.js';
import { ProblemNote } from '../parts/problem.js';
import '../kits/kits.css';
import '../stock/stock.css';
import { NewPurchase } from './NewPurchase.js';

/** What suppliers are to send: what is expected when, how much of it came, and which orders wait for it. */
export default function ReceivingPage({ me }: { me: Person }) {
  const orders = useQuery({
    queryKey: ['receiving'],
    queryFn: () => get(PurchaseOrderRow.array(), 'receiving'),
  });
  const [making, setMaking] = useState(false);
  const [ending, setEnding] = useState<PurchaseOrderRow | null>(null);
  const client = useQueryClient();
  const navigate = useNavigate();
  const desk = can(me, 'purchases.change');
  const end = useMutation({
    mutationFn: (no: string) => send(`receiving/${no}/end`),
    onSuccess: async () => {
      setEnding(null);
      await client.invalidateQueries();
    },
  });
  return (
    <>
      <div className="headline">
        <div className="grow">
          <h1>Receiving</h1>
          <p className="quiet">Open an order, or scan its PO- code anywhere, and scan what comes.</p>
        </div>
        {desk && (
          <>
            <Button component={Link} to="/bring-in?kind=purchases" variant="outlined">
              Bring in
            </Button>
            <Button variant="outlined" onClick={() => setMaking(true)}>
              New purchase order
            </Button>
          </>
        )}
      </div>
      <ProblemNote error={orders.error} />
      {making && <NewPurchase leave={() => setMaking(false)} made={() => setMaking(false)} />}
      {ending && (
        <Ask
          title={`Is the rest of ${ending.no} not coming?`}
          act="It is not coming"
          danger
          busy={end.isPending}
          error={end.error}
          onAct={() => end.mutate(ending.no)}
          onLeave={() => setEnding(null)}
        >
          {ending.ordered - ending.received} of {ending.ordered} units are awaited. What came stays.
        </Ask>
      )}
      {orders.data?.length === 0 && (
        <p className="empty">No purchase order is here. Type one in, or bring in a file.</p>
      )}
      {!!orders.data?.length && (
        <table className="list">
          <thead>
            <tr>
              <th>Order</th>
              <th>Supplier</th>
              <th>Expected</th>
              <th className="num">Received</th>
              <th>Waits for it</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {orders.data.map(o => (
              <tr key={o.no} className="opens">
                <td>
                  <b className="code">{o.no}</b>
                  {o.reference && <div className="quiet">{o.reference}</div>}
                </td>
                <td>{o.supplier}</td>
                <td className={o.late ? 'risk' : ''}>
                  {o.late && '! '}
                  {day(o.expected) || <span className="quiet">no day told</span>}
                  {o.late && <div className="small">late</div>}
                </td>
                <td className="num">
                  <b>{o.received}</b> of {o.ordered}
                  <div className="quiet">{count(o.lines, 'line')}</div>
                </td>
                <td>{o.frees > 0 && <span className="risk">◆ {count(o.frees, 'Short order')}</span>}</td>
                <td className="acts">
                  {o.state === 'open' ? (
                    <>
                      {can(me, 'receive') && (
                        <Button
                          size="small"
                          variant="outlined"
                          onClick={() => void navigate(`/receiving/${o.no}`)}
                        >
                          Receive
                        </Button>
                      )}
                      {desk && (
                        <button type="button" onClick={() => setEnding(o)}>
                          Rest is not coming
                        </button>
                      )}
                    </>
                  ) : (
                    <span className={o.state === 'done' ? 'good' : 'quiet'}>
                      {o.state === 'done' ? '✓ done' : '— nothing came'}
                    </span>
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
