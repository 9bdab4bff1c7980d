import { Suspense } from 'react';
import { Outlet } from 'react-router';

/** The frame of pages that anyone may open who has their address: none at all. */
export const Open = () => (
  <Suspense>
    <Outlet />
  </Suspense>
);
