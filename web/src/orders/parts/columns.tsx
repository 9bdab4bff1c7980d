import type { OrderRow } from '@auk/contract';
import { count, formatMoney, openBalance } from '@auk/core';
import IconButton from '@mui/material/IconButton';
import { CodeLink } from '../../parts/Code.js';
import { clock, day, moment } from '../../parts/format.js';
import { StageMark } from '../../parts/stage.js';
import type { Column } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';

/** The columns of the order list; `star` stars an order or takes the star off. */
export const orderColumns = (star: (row: OrderRow) => void): Column<OrderRow>[] => [
  {
    id: 'star',
    head: 'Starred',
    width: 3,
    fixed: true,
    cell: r => (
      <IconButton
        size="small"
        aria-label={r.starred ? `Unstar ${r.channelNumber}` : `Star ${r.channelNumber}`}
        onClick={() => star(r)}
      >
        {r.starred ? '★' : '☆'}
      </IconButton>
    ),
  },
  {
    id: 'order',
    head: 'Order',
    width: 13,
    cell: r => (
      <>
        <CodeLink to={`/orders/${r.id}`}>{r.channelNumber}</CodeLink>
        <div className={textCss.quiet}>{r.channel}</div>
      </>
    ),
  },
  {
    id: 'buyer',
    head: 'Buyer',
    width: 15,
    cell: r => (
      <>
        {r.buyer || <span className={textCss.quiet}>no buyer yet</span>}
        <div className={textCss.quiet}>{r.town}</div>
      </>
    ),
  },
  {
    id: 'what',
    head: 'What',
    width: 24,
    cell: r => (
      <>
        <div className={textCss.cut} title={r.what}>
          {r.what}
        </div>
        <div className={textCss.quiet}>
          {count(r.lines, 'line')}, {count(r.units, 'unit')}
        </div>
      </>
    ),
  },
  {
    id: 'stage',
    head: 'Stage',
    width: 19,
    cell: r => (
      <>
        <StageMark stage={r.stage} />
        <div className={`${textCss.quiet} ${textCss.two}`}>
          {r.reason ?? (r.together > 0 ? `could travel with ${count(r.together, 'other')}` : '')}
        </div>
      </>
    ),
  },
  {
    id: 'leaves',
    head: 'Leaves with',
    width: 13,
    cell: r =>
      r.leavesWith &&
      r.stage !== 'Cancelled' && (
        <>
          {`${r.leavesWith.carrier.split(' ')[0]} ${clock(r.leavesWith.cutOff)}`}
          <div className={textCss.quiet}>{day(r.leavesWith.cutOff)}</div>
        </>
      ),
  },
  { id: 'promised', head: 'Promised', cell: r => day(r.promised) },
  { id: 'placed', head: 'Placed', width: 13, hidden: true, cell: r => r.placedAt && moment(r.placedAt) },
  { id: 'payment', head: 'Payment', hidden: true, cell: r => r.payment },
  { id: 'tags', head: 'Tags', hidden: true, cell: r => r.tags.join(', ') },
  {
    id: 'mail',
    head: 'Mail',
    width: 16,
    hidden: true,
    cell: r => (
      <div className={textCss.cut} title={r.mail}>
        {r.mail}
      </div>
    ),
  },
  {
    id: 'total',
    head: 'Total',
    right: true,
    cell: r => (
      <>
        {formatMoney(r.totalMinor, r.currency)}
        <Balance row={r} />
      </>
    ),
  },
];

function Balance({ row: r }: { row: OrderRow }) {
  const open = openBalance(r.payment, r.paidMinor, r.totalMinor);
  if (open === 0) return null;
  return (
    <div className={open < 0 ? `${textCss.quiet} ${textCss.stop}` : textCss.quiet}>
      {formatMoney(Math.abs(open), r.currency)} {open < 0 ? 'due' : 'over'}
    </div>
  );
}
