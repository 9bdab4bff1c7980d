import { Suspense } from 'react';
import { Outlet } from 'react-router';
import { SignInOver } from '../people/parts/SignInOver.js';
import { Looks } from '../theme/Looks.js';
import { useLook } from '../theme/look.js';

/** The layout of work by scanner: dark, over the whole screen. */
export function Dark() {
  const { units } = useLook();
  return (
    <Looks posture="dark">
      <Suspense>
        <Outlet key={units} />
      </Suspense>
      <SignInOver />
    </Looks>
  );
}
