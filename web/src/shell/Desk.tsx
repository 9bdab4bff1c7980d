import { Strip } from '@auk/contract';
import { useQuery } from '@tanstack/react-query';
import { Suspense, useEffect, useRef } from 'react';
import { Link, Outlet, useLocation } from 'react-router';
import { stripQuery } from '../departures/api.js';
import { clock, dayAt, minutesUntil, span } from '../parts/format.js';
import { SayHere } from '../parts/say.js';
import { useMinute } from '../parts/useMinute.js';
import { Waiting } from '../parts/Waiting.js';
import { SignInOver } from '../people/parts/SignInOver.js';
import { Unsent } from '../scans/Unsent.js';
import { Looks } from '../theme/Looks.js';
import { useLook } from '../theme/look.js';
import { quietMoment } from '../update.js';
import { PauseBuying } from './PauseBuying.js';
import { RouteStrip } from './RouteStrip.js';
import { ScanField } from './ScanField.js';
import css from './shell.module.css';
import { Who } from './Who.js';

/** The layout of work at a desk: one dark band with the scan field, the route of the work under it, and the page. */
export function Desk() {
  const strip = useQuery(stripQuery);
  return (
    <Looks posture="desk">
      <a className={css.skip} href="#page">
        Go to the page
      </a>
      <header className={css.top}>
        <Link className={css.mark} to="/board">
          <img src="/mark.svg" alt="" />
          Auk
        </Link>
        <ScanField />
        <Unsent />
        <PauseBuying />
        <Clock next={strip.data?.next ?? null} />
        <Who />
      </header>
      <RouteStrip strip={strip.data} />
      <Page />
      <SignInOver />
      <SayHere />
    </Looks>
  );
}

/** The page; whoever goes to another one stands at its beginning, also without eyes. */
function Page() {
  const { pathname } = useLocation();
  const { units } = useLook();
  const place = useRef<HTMLElement>(null);
  const before = useRef(pathname);
  useEffect(() => {
    if (before.current === pathname) return;
    before.current = pathname;
    quietMoment();
    // A page that has put the cursor somewhere by itself knows better, and who types in the scan field goes on typing.
    const at = document.activeElement;
    if (at instanceof HTMLInputElement || place.current?.contains(at)) return;
    place.current?.focus({ preventScroll: true });
  }, [pathname]);
  return (
    <main className={css.page} id="page" ref={place} tabIndex={-1}>
      <Suspense fallback={<Waiting error={null} />}>
        <Outlet key={units} />
      </Suspense>
    </main>
  );
}

function Clock({ next }: { next: Strip['next'] }) {
  const now = useMinute();
  const left = next && minutesUntil(next.cutOff, now);
  return (
    <div className={css.clock}>
      <b>{clock(now)}</b> {dayAt(now)}
      {next && left !== null && (
        <div>
          {next.carrierName} leaves{' '}
          {left > 12 * 60 ? (
            `at ${clock(next.cutOff)}`
          ) : (
            <>
              in <strong>{span(left)}</strong>
            </>
          )}
        </div>
      )}
    </div>
  );
}
