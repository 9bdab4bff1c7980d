import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useEffect } from 'react';
import { Outlet, ScrollRestoration } from 'react-router';
import { useLive } from '../live.js';
import { meQuery } from '../people/api.js';
import { SignInPage } from '../people/pages/SignInPage.js';

import { outbox } from '../scans/theOutbox.js';
import { houseQuery } from '../setup/api.js';
import { Looks } from '../theme/Looks.js';
import { looks } from '../theme/look.js';

/** Seen once in the life of a house. */
const OpeningPage = lazy(() => import('./pages/OpeningPage.js'));

/** The house as whoever comes finds it: still to be opened, with nobody signed in, or at work. */
export function House() {
  const me = useQuery(meQuery);
  const house = useQuery(houseQuery);
  useEffect(() => {
    outbox.signedIn(me.data ?? null);
    if (me.data) looks.of(me.data.id);
  }, [me.data]);
  useLive(me.isSuccess);
  if (me.isPending || house.isPending) return null;
  if (me.data && house.data?.open !== false)
    return (
      <>
        <Outlet />
        <ScrollRestoration />
      </>
    );
  return (
    <Looks posture="desk">
      <Suspense>{house.data?.open === false ? <OpeningPage /> : <SignInPage />}</Suspense>
    </Looks>
  );
}
