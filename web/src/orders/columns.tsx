import type { OrderRow } from '@auk/contract';
import { count, formatMoney } from '@auk/core';
import {
  columnOrderingFeature,
  columnVisibilityFeature,
  createColumnHelper,
  tableFeatures,
} from '@tanstack/react-table';
import { Link } from 'react-router';
import { clock, day, moment } from '../parts/format.js';
import { StageMark } from '../parts/stage.js';

export const FEATURES = tableFeatures({ columnOrderingFeature, columnVisibilityFeature });
const helper = createColumnHelper<typeof FEATURES, OrderRow>();

/** What each column is called where columns are chosen. */
export const COLUMN_WORDS: Record<string, string> = {
  order: 'Order',
  buyer: 'Buyer',
  what: 'What',
  stage: 'Stage',
  leaves: 'Leaves with',
  promised: 'Promised',
  placed: 'Placed',
  payment: 'Payment',
  tags: 'Tags',
  mail: 'Mail',
  total: 'Total',
};
export const COLUMN_ORDER = Object.keys(COLUMN_WORDS);
/** Columns that are not shown until a person chooses them. */
export const HIDDEN = ['placed', 'payment', 'tags', 'mail'];

/** The columns of the order list. */
export const COLUMNS = helper.columns([
  helper.display({
    id: 'order',
    header: COLUMN_WORDS.order!,
    cell: ({ row: { original: r } }) => (
      <>
        <Link className="code" style={{ color: 'inherit' }} to={`/orders/${r.id}`}>
          {r.channelNumber}
        </Link>
        <div className="quiet">{r.channel}</div>
      </>
    ),
  }),
  helper.display({
    id: 'buyer',
    header: COLUMN_WORDS.buyer!,
    cell: ({ row: { original: r } }) => (
      <>
        {r.buyer || <span className="quiet">no buyer yet</span>}
        <div className="quiet">{r.town}</div>
      </>
    ),
  }),
  helper.display({
    id: 'what',
    header: COLUMN_WORDS.what!,
    cell: ({ row: { original: r } }) => (
      <>
        <span className="cut what">{r.what}</span>
        <div className="quiet">
          {count(r.lines, 'line')}, {count(r.units, 'unit')}
        </div>
      </>
    ),
  }),
  helper.display({
    id: 'stage',
    header: COLUMN_WORDS.stage!,
    cell: ({ row: { original: r } }) => (
      <>
        <StageMark stage={r.stage} />
        <div className="quiet two">
          {r.reason ?? (r.together > 0 ? `could travel with ${count(r.together, 'other')}` : '')}
        </div>
      </>
    ),
  }),
  helper.display({
    id: 'leaves',
    header: COLUMN_WORDS.leaves!,
    cell: ({ row: { original: r } }) => (
      <>
        {r.leavesWith ? `${r.leavesWith.carrier.split(' ')[0]} ${clock(r.leavesWith.cutOff)}` : ''}
        <div className="quiet">{r.leavesWith ? day(r.leavesWith.cutOff) : ''}</div>
      </>
    ),
  }),
  helper.display({
    id: 'promised',
    header: COLUMN_WORDS.promised!,
    cell: ({ row: { original: r } }) => day(r.promised),
  }),
  helper.display({
    id: 'placed',
    header: COLUMN_WORDS.placed!,
    cell: ({ row: { original: r } }) => (r.placedAt ? moment(r.placedAt) : ''),
  }),
  helper.display({
    id: 'payment',
    header: COLUMN_WORDS.payment!,
    cell: ({ row: { original: r } }) => r.payment,
  }),
  helper.display({
    id: 'tags',
    header: COLUMN_WORDS.tags!,
    cell: ({ row: { original: r } }) => r.tags.join(', '),
  }),
  helper.display({
    id: 'mail',
    header: COLUMN_WORDS.mail!,
    cell: ({ row: { original: r } }) => <span className="cut what">{r.mail}</span>,
  }),
  helper.display({
    id: 'total',
    header: COLUMN_WORDS.total!,
    cell: ({ row: { original: r } }) => (
      <>
        {formatMoney(r.totalMinor, r.currency)}
        <div className={r.paidMinor < r.totalMinor ? 'quiet stop' : 'quiet'}>
          {r.paidMinor === r.totalMinor
            ? ''
            : r.paidMinor < r.totalMinor
              ? `${formatMoney(r.totalMinor - r.paidMinor, r.currency)} due`
              : `${formatMoney(r.paidMinor - r.totalMinor, r.currency)} over`}
        </div>
      </>
    ),
  }),
]);
/** Columns whose cells stand on the right. */
export const RIGHT = new Set(['total']);
