import type { Strip } from '@auk/contract';
import { Fragment } from 'react';
import { Link, NavLink, useLocation } from 'react-router';
import textCss from '../parts/text.module.css';
import css from './shell.module.css';

interface Station {
  to: string;
  name: string;
  count: number | undefined;
  /** What of it wants somebody, and where it is listed. */
  also?: [n: number | undefined, what: string, tone: 'stop' | 'risk', to: string];
}

function Also({ also: [n, what, tone, to] }: { also: NonNullable<Station['also']> }) {
  return (
    <Link className={`${css.also} ${textCss[tone]}`} to={to}>
      {n} {what}
    </Link>
  );
}

/** The route of the work: how many orders stand at each station, and the places beside it. */
export function RouteStrip({ strip }: { strip: Strip | undefined }) {
  const { pathname } = useLocation();
  const stations: Station[] = [
    {
      to: '/orders',
      name: 'Orders',
      count: strip?.orders,
      also: [strip?.stopped, 'stopped', 'stop', '/orders?stage=Stopped'],
    },
    { to: '/pick', name: 'Pick', count: strip?.pick },
    { to: '/bench', name: 'Bench', count: strip?.bench },
    {
      to: '/parcels',
      name: 'Parcels',
      count: strip?.parcels,
      also: [strip?.unanswered, 'in doubt', 'risk', '/parcels'],
    },
    {
      to: '/departed',
      name: 'Departed',
      count: strip?.departed,
      // Buyers write of what left, and now and then of what has not.
      also: [strip?.wrote, 'to answer', 'risk', '/orders?stage=all&wrote=yes'],
    },
  ];
  return (
    <nav className={css.strip} aria-label="The route of the work">
      {stations.map((s, i) => (
        <Fragment key={s.to}>
          {i > 0 && <span className={css.rail} />}
          <span className={css.station}>
            <NavLink to={s.to} tabIndex={-1} aria-hidden>
              <b>{s.count ?? '·'}</b>
            </NavLink>
            <NavLink to={s.to} aria-label={`${s.count ?? ''} ${s.name}`}>
              <span>{s.name}</span>
            </NavLink>
            {s.also?.[0] ? <Also also={s.also} /> : null}
          </span>
        </Fragment>
      ))}
      <span className={css.off}>
        <NavLink to="/board">Board</NavLink>
        <NavLink to="/products">Products</NavLink>
        <Link to="/kits" aria-current={/^\/(kits|builds)/.test(pathname) ? 'page' : undefined}>
          Kits
        </Link>
        <NavLink to="/stock">Stock</NavLink>
        <NavLink to="/receiving">Receiving</NavLink>
        <NavLink to="/inbound">Inbound</NavLink>
        <NavLink to="/floor">Floor</NavLink>
        <NavLink to="/rules">Rules</NavLink>
        <NavLink to="/setup">Setup</NavLink>
      </span>
    </nav>
  );
}
