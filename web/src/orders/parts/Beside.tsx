import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo } from 'react';
import { Link, useNavigate } from 'react-router';
import textCss from '../../parts/text.module.css';
import { besideQuery } from '../api.js';
import css from '../orders.module.css';
import { lastQuestion } from '../pages/OrdersPage.js';

/** The order before and the order after, in the list the person came from; also by Alt and an arrow. */
export function Beside({ id }: { id: string }) {
  const navigate = useNavigate();
  const client = useQueryClient();
  const question = lastQuestion();
  const asked = useMemo(() => besideQuery(id, question), [id, question]);
  const beside = useQuery(asked);
  useEffect(() => {
    const keys = async (e: KeyboardEvent) => {
      if (!e.altKey || (e.key !== 'ArrowUp' && e.key !== 'ArrowDown')) return;
      e.preventDefault();
      const { before, after } = await client.ensureQueryData(asked);
      const to = e.key === 'ArrowUp' ? before : after;
      if (to) void navigate(`/orders/${to}`);
    };
    const listen = (e: KeyboardEvent) => void keys(e);
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [asked, client, navigate]);
  return (
    <nav className={css.beside} aria-label="Neighbours in the list">
      <Link to={`/orders?${question}`}>the list</Link>
      {beside.data?.before ? (
        <Link to={`/orders/${beside.data.before}`} title="Alt and arrow up">
          ↑ previous
        </Link>
      ) : (
        <span className={textCss.quiet}>↑ previous</span>
      )}
      {beside.data?.after ? (
        <Link to={`/orders/${beside.data.after}`} title="Alt and arrow down">
          ↓ next
        </Link>
      ) : (
        <span className={textCss.quiet}>↓ next</span>
      )}
    </nav>
  );
}
