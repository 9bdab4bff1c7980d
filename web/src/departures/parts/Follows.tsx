import { count } from '@auk/core';
import { useQuery } from '@tanstack/react-query';
import { day, moment } from '../../parts/format.js';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { followsQuery } from '../api.js';
import css from '../board.module.css';

const SHOWN = 8;

/** What follows for each order, before it is done: those that would be late first. */
export function Follows({ no, cutOff }: { no: string; cutOff: string | null }) {
  const follows = useQuery(followsQuery(no, cutOff));
  if (!follows.data) return <ProblemNote error={follows.error} />;
  const { orders, leaves } = follows.data;
  const late = orders.filter(o => o.late);
  const sorted = [...late, ...orders.filter(o => !o.late)];
  if (orders.length === 0) return <p>No order waits for it.</p>;
  return (
    <div data-part="follows">
      <p>
        {count(orders.length, 'order')} would leave {leaves ? moment(leaves) : 'at a time nobody knows yet'};{' '}
        {late.length === 0 ? (
          <b className={textCss.good}>✓ none of them would be late.</b>
        ) : (
          <b className={textCss.stop}>✕ {late.length} would be late.</b>
        )}
      </p>
      <ul className={css.follows}>
        {sorted.slice(0, SHOWN).map(o => (
          <li key={o.id}>
            <span className={textCss.code}>{o.channelNumber}</span> {o.stage}
            {o.promised && `, promised ${day(o.promised)}`}
            {o.wouldArrive && `, arrives ${day(o.wouldArrive)}`}
            {o.wouldArrive && o.wouldArrive !== o.arrives && ` instead of ${day(o.arrives)}`}
            {o.late && <b className={textCss.stop}> ✕ late</b>}
          </li>
        ))}
        {sorted.length > SHOWN && <li className={textCss.quiet}>and {sorted.length - SHOWN} more</li>}
      </ul>
    </div>
  );
}
