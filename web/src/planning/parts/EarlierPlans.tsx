import { count } from '@auk/core';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { moment } from '../../parts/format.js';
import pageCss from '../../parts/page.module.css';
import textCss from '../../parts/text.module.css';
import { plansQuery } from '../api.js';

const STATE = { planning: 'being made', failed: '✕ came to nothing' } as const;

/** Plans that were made before, so that one that was left can be gone back to. */
export function EarlierPlans() {
  const plans = useQuery(plansQuery).data ?? [];
  if (plans.length === 0) return null;
  return (
    <section className={pageCss.panel}>
      <h2>Earlier plans</h2>
      <ul className={textCss.plain}>
        {plans.map(p => (
          <li key={p.id}>
            <Link to={`/pick/plan/${p.id}`}>{moment(p.createdAt)}</Link>{' '}
            <span className={textCss.quiet}>
              {p.state === 'ready'
                ? `${count(p.orders, 'order')} on ${count(p.lists, 'list')}, ${p.released} released`
                : STATE[p.state]}
              {p.by && `, ${p.by}`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
