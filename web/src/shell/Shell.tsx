import { Person, Strip } from '@auk/contract';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { DateTime } from 'luxon';
import { useEffect, useState } from 'react';
import { Link, NavLink, Outlet, useLocation } from 'react-router';
import { get, send } from '../api.js';
import { clock, span, zoneOfHouse } from '../parts/format.js';
import { ScanField } from './ScanField.js';
import '../parts/desk.css';
import './shell.css';

/** The frame of every desk page: one dark band with the scan field, and the route of the work under it. */
export function Shell({ me }: { me: Person }) {
  const strip = useQuery({
    queryKey: ['strip'],
    queryFn: () => get(Strip, 'departures/strip'),
    refetchInterval: 30_000,
  });
  return (
    <>
      <header className="top">
        <Link className="mark" to="/board">
          <img src="/mark.svg" alt="" />
          Auk
        </Link>
        <ScanField />
        <Clock next={strip.data?.next ?? null} />
        <Who me={me} />
      </header>
      <RouteStrip strip={strip.data} />
      <main className="page">
        <Outlet />
      </main>
    </>
  );
}

/** The present minute; renders again when it changes. */
export function useMinute(): DateTime {
  const [now, setNow] = useState(() => DateTime.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(DateTime.now()), 5_000);
    return () => clearInterval(timer);
  }, []);
  return now;
}

function Clock({ next }: { next: Strip['next'] }) {
  const now = useMinute().setZone(zoneOfHouse());
  return (
    <div className="clock">
      <b>{now.toFormat('HH:mm')}</b> {now.toFormat('ccc d LLL')}
      {next && (
        <div>
          {next.carrierName} leaves{' '}
          {DateTime.fromISO(next.cutOff).diff(now, 'hours').hours > 12 ? (
            `at ${clock(next.cutOff)}`
          ) : (
            <>
              in <strong>{span(DateTime.fromISO(next.cutOff).diff(now, 'minutes').minutes)}</strong>
            </>
          )}
        </div>
      )}
    </div>
  );
}

function Who({ me }: { me: Person }) {
  const client = useQueryClient();
  const signOut = async () => {
    await send('people/sign-out');
    client.clear();
    window.location.assign('/');
  };
  return (
    <button type="button" className="who" onClick={() => void signOut()} title="Sign out">
      {me.name}
      <span>{me.role} · sign out</span>
    </button>
  );
}

interface Station {
  to: string;
  name: string;
  count: number | undefined;
  also?: { text: string; tone: string } | null;
}

function RouteStrip({ strip }: { strip: Strip | undefined }) {
  const { pathname } = useLocation();
  const stations: Station[] = [
    {
      to: '/orders',
      name: 'Orders',
      count: strip?.orders,
      also: strip?.stopped ? { text: `${strip.stopped} stopped`, tone: 'stop' } : null,
    },
    { to: '/pick', name: 'Pick', count: strip?.pick },
    { to: '/bench', name: 'Bench', count: strip?.bench },
    {
      to: '/parcels',
      name: 'Parcels',
      count: strip?.parcels,
      also: strip?.unanswered ? { text: `${strip.unanswered} unanswered`, tone: 'risk' } : null,
    },
    { to: '/departed', name: 'Departed', count: strip?.departed },
  ];
  return (
    <nav className="strip" aria-label="The route of the work">
      {stations.map((s, i) => (
        <span key={s.to} style={{ display: 'contents' }}>
          {i > 0 && <span className="rail" />}
          <Link className={pathname.startsWith(s.to) ? 'station here' : 'station'} to={s.to}>
            <b>{s.count ?? '·'}</b>
            <span className="name">
              {s.name}
              {s.also && <small className={s.also.tone}>{s.also.text}</small>}
            </span>
          </Link>
        </span>
      ))}
      <span className="off">
        <NavLink to="/board">Board</NavLink>
        <NavLink to="/products">Products</NavLink>
        <Link to="/kits" className={/^\/(kits|builds)/.test(pathname) ? 'active' : ''}>
          Kits
        </Link>
        <NavLink to="/stock">Stock</NavLink>
        <NavLink to="/receiving">Receiving</NavLink>
        <NavLink to="/floor">Floor</NavLink>
        <NavLink to="/setup">Setup</NavLink>
      </span>
    </nav>
  );
}
