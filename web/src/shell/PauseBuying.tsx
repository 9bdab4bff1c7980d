import { lazy, Suspense } from 'react';

const BuyingSwitch = lazy(() => import('../rules/parts/BuyingSwitch.js'));

/** The pause of buying unattended, on every page. It comes after the page: nobody waits for it, and no page grows by its code. */
export function PauseBuying() {
  return (
    <Suspense>
      <BuyingSwitch />
    </Suspense>
  );
}
