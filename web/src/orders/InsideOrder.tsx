import type { OrderView, ProductRow } from '@auk/contract';
import { formatMoney, type StopReason } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { get, post } from '../api.js';
import { ProblemNote } from '../parts/problem.js';

/** A look inside an order without leaving the list: what stops it, where it goes, its money. */
export function InsideOrder({ id }: { id: string }) {
  const order = useQuery({ queryKey: ['order', id], queryFn: () => get<OrderView>(`orders/${id}`) });
  if (!order.data) return <ProblemNote error={order.error} />;
  const { row, shipTo, lines, stops, shippingMinor } = order.data;
  return (
    <div className="openrow">
      <div>
        {stops.map(s => (
          <StopNote key={s.code + s.subject} stop={s} />
        ))}
        {stops.length === 0 && <h3>Lines</h3>}
        {lines.map(l => (
          <p key={l.id}>
            {l.quantity} × {l.title} <span className="code quiet">{l.product?.sku ?? l.channelSku}</span>
          </p>
        ))}
        <Link to={`/orders/${id}`}>Whole order</Link>
      </div>
      <div>
        <h3>Ship to</h3>
        {[
          shipTo.name,
          shipTo.company,
          shipTo.line1,
          shipTo.line2,
          `${shipTo.city}, ${shipTo.region} ${shipTo.postcode}`,
        ]
          .filter(Boolean)
          .map(t => (
            <p key={t}>{t}</p>
          ))}
      </div>
      <div>
        <h3>Money</h3>
        <p>
          {order.data.payment} {formatMoney(row.paidMinor, row.currency)}, of it shipping{' '}
          {formatMoney(shippingMinor, row.currency)}
        </p>
      </div>
    </div>
  );
}

/** Why an order is Stopped, with its cure. An unlinked listing can be linked here. */
export function StopNote({ stop }: { stop: StopReason }) {
  return (
    <div style={{ marginBottom: 10 }}>
      <p>
        <span className="stop" aria-hidden="true">
          ▲
        </span>{' '}
        {stop.says} <b>{stop.cure}</b>
      </p>
      {stop.code === 'unlinked-listing' && <LinkListing channelSku={stop.subject} />}
    </div>
  );
}

function LinkListing({ channelSku }: { channelSku: string }) {
  const [sku, setSku] = useState('');
  const client = useQueryClient();
  const products = useQuery({ queryKey: ['products', ''], queryFn: () => get<ProductRow[]>('products') });
  const link = useMutation({
    mutationFn: () => post<{ freed: number }>('orders/link', { channelSku, sku }),
    onSuccess: () => client.invalidateQueries(),
  });
  return (
    <div className="linkform">
      <select
        aria-label="Product to link"
        value={sku}
        onChange={e => setSku(e.target.value)}
        style={{ font: 'inherit', padding: 6, maxWidth: 320 }}
      >
        <option value="">Choose a product …</option>
        {products.data?.map(p => (
          <option key={p.sku} value={p.sku}>
            {p.name} ({p.sku})
          </option>
        ))}
      </select>
      <Button
        variant="outlined"
        size="small"
        disabled={sku === '' || link.isPending}
        onClick={() => link.mutate()}
      >
        Link
      </Button>
      <ProblemNote error={link.error} />
    </div>
  );
}
