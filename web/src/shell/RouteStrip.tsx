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
  also?: { text: string; tone: 'stop' | 'risk'; to: string } | null;
}

/** The route of the work: how many orders stand at each station, and the places beside it. */
export function RouteStrip({ strip }: { strip: Strip | undefined }) {
  const { pathname } = useLocation();
  const stations: Station[] = [
    {
      to: '/orders',
      name: 'Orders',
      count: strip?.orders,
      also: strip?.stopped
        ? { text: `${strip.stopped} stopped`, tone: 'stop', to: '/orders?stage=Stopped' }
        : null,
    },
    { to: '/pick', name: 'Pick', count: strip?.pick },
    { to: '/bench', name: 'Bench', count: strip?.bench },
    {
      to: '/parcels',
      name: 'Parcels',
      count: strip?.parcels,
      also: strip?.unanswered
        ? { text: `${strip.unanswered} unanswered`, tone: 'risk', to: '/parcels' }
        : null,
    },
    { to: '/departed', name: 'Departed', count: strip?.departed },
  ];
  return (
    <nav className={css.strip} aria-label="The route of the work">
      {stations.map((s, i) => (
        <Fragment key={s.to}>
          {i > 0 && <span className={css.rail} />}
          <span className={css.station}>
            <NavLink to={s.to}>
              <b>{s.count ?? '·'}</b>
              <span>{s.name}</span>
            </NavLink>
            {s.also && (
              <Link className={textCss[s.also.tone]} to={s.also.to}>
                {s.also.text}
              </Link>
            )}
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
