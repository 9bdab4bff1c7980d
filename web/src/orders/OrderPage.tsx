import type { OrderLineView, OrderView } from '@auk/contract';
import { formatMoney, HOLDS } from '@auk/core';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { get, post } from '../api.js';
import { day, moment } from '../parts/format.js';
import { ProblemNote } from '../parts/problem.js';
import { StageMark } from '../parts/stage.js';
import { StopNote } from './InsideOrder.js';
import './orders.css';

/** One order's whole story on one page. */
export default function OrderPage() {
  const { id } = useParams();
  const order = useQuery({ queryKey: ['order', id], queryFn: () => get<OrderView>(`orders/${id}`) });
  if (!order.data) return <ProblemNote error={order.error} />;
  const o = order.data;
  return (
    <>
      <div className="headline">
        <div className="grow">
          <h1>
            <span className="code">{o.row.channelNumber}</span> · {o.row.buyer}
          </h1>
          <p>
            <StageMark stage={o.row.stage} />{' '}
            <span className="quiet">
              {o.row.reason} · {o.row.channel} · <span className="code">{o.row.no}</span>
            </span>
          </p>
        </div>
        <Acts order={o} />
      </div>
      {o.stops.map(s => (
        <StopNote key={s.code + s.subject} stop={s} />
      ))}
      <div className="facts">
        <section>
          <h2>Lines</h2>
          <table className="list">
            <thead>
              <tr>
                <th className="num">Units</th>
                <th>Product</th>
                <th>SKU</th>
                <th>Where they stand</th>
                <th className="num">Each</th>
              </tr>
            </thead>
            <tbody>
              {o.lines.map(l => (
                <LineRows key={l.id} line={l} currency={o.row.currency} />
              ))}
            </tbody>
          </table>
          <h2 style={{ marginTop: 24 }}>Parcels</h2>
          {o.parcels.length === 0 && <p className="quiet">None yet. The first is opened at the bench.</p>}
          {o.parcels.length > 0 && (
            <table className="list">
              <thead>
                <tr>
                  <th>Parcel</th>
                  <th>State</th>
                  <th>Service</th>
                  <th>Tracking</th>
                  <th className="num">Label</th>
                </tr>
              </thead>
              <tbody>
                {o.parcels.map(p => (
                  <tr key={p.no}>
                    <td className="code">{p.no}</td>
                    <td>{p.state}</td>
                    <td>
                      {p.carrier} {p.service}
                    </td>
                    <td className="code">{p.tracking}</td>
                    <td className="num">
                      {p.minor === null ? '' : formatMoney(p.minor, o.row.currency)}{' '}
                      {p.tracking && (
                        <a href={`/api/v1/parcels/${p.no}/label.pdf`} target="_blank" rel="noreferrer">
                          PDF
                        </a>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          <h2 style={{ marginTop: 24 }}>History</h2>
          <ul className="history">
            {o.history.map((h, i) => (
              <li key={`${h.at}${i}`}>
                <span className="quiet">{moment(h.at)}</span>
                <span>
                  {h.says} {h.person && <span className="quiet">{h.person}</span>}
                </span>
              </li>
            ))}
          </ul>
        </section>
        <aside>
          <dl>
            <dt>Ship to</dt>
            <dd>
              {[
                o.shipTo.name,
                o.shipTo.company,
                o.shipTo.line1,
                o.shipTo.line2,
                `${o.shipTo.city}, ${o.shipTo.region} ${o.shipTo.postcode}`,
                o.shipTo.country,
              ]
                .filter(Boolean)
                .map(t => (
                  <div key={t}>{t}</div>
                ))}
            </dd>
            <dt>Mail</dt>
            <dd>{o.mail}</dd>
            <dt>Telephone</dt>
            <dd>{o.shipTo.phone}</dd>
            {o.note && (
              <>
                <dt>Note</dt>
                <dd>{o.note}</dd>
              </>
            )}
          </dl>
          <dl>
            <dt>Total</dt>
            <dd>
              {formatMoney(o.row.paidMinor, o.row.currency)}, {o.payment}
            </dd>
            <dt>Shipping</dt>
            <dd>{formatMoney(o.shippingMinor, o.row.currency)}</dd>
            <dt>Promised</dt>
            <dd>{day(o.row.promised)}</dd>
            <dt>Leaves</dt>
            <dd>
              {o.row.leavesWith
                ? `${o.row.leavesWith.carrier}, ${moment(o.row.leavesWith.cutOff)}`
                : 'not planned'}
            </dd>
            <dt>Placed</dt>
            <dd>{o.placedAt ? moment(o.placedAt) : ''}</dd>
            {o.lists.length > 0 && (
              <>
                <dt>Pick list</dt>
                <dd>
                  {o.lists.map(l => (
                    <Link key={l} to={`/pick/${l}`} className="code">
                      {l}
                    </Link>
                  ))}
                </dd>
              </>
            )}
          </dl>
        </aside>
      </div>
    </>
  );
}

function LineRows({ line: l, currency }: { line: OrderLineView; currency: string }) {
  const own = l.parts.length === 1 && l.parts[0]!.productId === l.product?.id;
  const where = (held: Record<string, number>, of: number) => {
    const known = HOLDS.filter(h => held[h]! > 0).map(h => `${held[h]} ${h === 'soft' ? 'reserved' : h}`);
    const sum = HOLDS.reduce((n, h) => n + held[h]!, 0);
    return [...known, ...(sum < of ? [`${of - sum} missing`] : [])].join(', ');
  };
  return (
    <>
      <tr>
        <td className="num">{l.quantity}</td>
        <td>
          {l.product?.name ?? l.title}
          {l.product?.kind === 'bundle' && <span className="quiet"> bundle</span>}
          {l.product?.kind === 'kit' && <span className="quiet"> kit</span>}
        </td>
        <td className="code">
          {l.product ? (
            <Link style={{ color: 'inherit' }} to={`/products/${encodeURIComponent(l.product.sku)}`}>
              {l.product.sku}
            </Link>
          ) : (
            l.channelSku
          )}
        </td>
        <td className="quiet">{own ? where(l.parts[0]!.held, l.parts[0]!.quantity) : ''}</td>
        <td className="num">{formatMoney(l.priceMinor, currency)}</td>
      </tr>
      {!own &&
        l.parts.map(p => (
          <tr key={p.id} className="parts">
            <td className="num">{p.quantity}</td>
            <td>{p.name}</td>
            <td className="code">{p.sku}</td>
            <td>{where(p.held, p.quantity)}</td>
            <td />
          </tr>
        ))}
    </>
  );
}

function Acts({ order }: { order: OrderView }) {
  const [asking, setAsking] = useState<'park' | 'cancel' | null>(null);
  const [reason, setReason] = useState('');
  const client = useQueryClient();
  const done = () => {
    setAsking(null);
    setReason('');
    void client.invalidateQueries();
  };
  const act = useMutation({
    mutationFn: (what: 'park' | 'unpark' | 'cancel') => post(`orders/${order.row.id}/${what}`, { reason }),
    onSuccess: done,
  });
  const open = !['Departed', 'Cancelled'].includes(order.row.stage);
  return (
    <div>
      <div className="row" style={{ gap: 8 }}>
        <Button variant="outlined" href={`/api/v1/orders/${order.row.id}/slip.pdf`} target="_blank">
          Slip
        </Button>
        {open &&
          (order.row.stage === 'Parked' ? (
            <Button variant="contained" onClick={() => act.mutate('unpark')}>
              Unpark
            </Button>
          ) : (
            <Button variant="outlined" onClick={() => setAsking('park')}>
              Park
            </Button>
          ))}
        {open && (
          <Button variant="outlined" color="error" onClick={() => setAsking('cancel')}>
            Cancel order
          </Button>
        )}
      </div>
      {!asking && <ProblemNote error={act.error} />}
      <Dialog open={asking !== null} onClose={() => setAsking(null)} fullWidth maxWidth="xs">
        <DialogTitle>{asking === 'park' ? 'Park the order' : 'Cancel the order'}</DialogTitle>
        <DialogContent>
          <TextField
            label="Why"
            fullWidth
            autoFocus
            margin="dense"
            value={reason}
            onChange={e => setReason(e.target.value)}
          />
          <ProblemNote error={act.error} />
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setAsking(null)}>Leave it</Button>
          <Button
            variant="contained"
            disabled={reason.trim() === '' || act.isPending}
            onClick={() => act.mutate(asking!)}
          >
            {asking === 'park' ? 'Park' : 'Cancel order'}
          </Button>
        </DialogActions>
      </Dialog>
    </div>
  );
}
