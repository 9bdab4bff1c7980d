import { formatMoney } from '@auk/core';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { orderQuery } from '../../parts/api.js';
import textCss from '../../parts/text.module.css';
import { Waiting } from '../../parts/Waiting.js';
import css from '../orders.module.css';
import { StopNote } from './StopCure.js';

/** A look inside an order without leaving the list: what stops it, where it goes, its money. */
export function InsideOrder({ id }: { id: string }) {
  const order = useQuery(orderQuery(id));
  if (!order.data) return <Waiting error={order.error} />;
  const { row, shipTo, lines, stops, money, notes, related } = order.data;
  const show = (minor: number) => formatMoney(minor, row.currency);
  return (
    <div className={css.openrow}>
      <div>
        {stops.length > 0 && <h3>What stops it</h3>}
        {stops.map(s => (
          <StopNote key={s.code + s.subject + s.says} stop={s} order={order.data} />
        ))}
        <h3>Lines</h3>
        {lines.map(l => (
          <p key={l.id}>
            {l.quantity} × {l.title}{' '}
            <span className={`${textCss.code} ${textCss.quiet}`}>{l.product?.sku ?? l.channelSku}</span>
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
          shipTo.country === 'US' ? '' : shipTo.country,
        ]
          .filter(Boolean)
          .map(t => (
            <p key={t}>{t}</p>
          ))}
        {related
          .filter(r => r.how === 'can travel along')
          .map(r => (
            <p key={r.id} className={textCss.tide}>
              could travel with <Link to={`/orders/${r.id}`}>{r.number}</Link>
            </p>
          ))}
      </div>
      <div>
        <h3>Money</h3>
        <p>
          {order.data.settled}
          {order.data.settled.endsWith('refunded') ? ', kept ' : ' '}
          {show(money.paidMinor)} of {show(money.totalMinor)}
        </p>
        <p>shipping {show(money.shippingMinor)}</p>
        {money.balanceMinor < 0 && <p className={textCss.stop}>{show(-money.balanceMinor)} due</p>}
        {money.balanceMinor > 0 && <p className={textCss.risk}>{show(money.balanceMinor)} to refund</p>}
        {notes.map(n => (
          <p key={n.id} className={textCss.quiet}>
            for {n.kind}: {n.text}
          </p>
        ))}
      </div>
    </div>
  );
}
