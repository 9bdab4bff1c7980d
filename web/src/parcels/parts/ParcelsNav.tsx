import { can } from '@auk/contract';
import { SubNav } from '../../parts/SubNav.js';
import { useMe } from '../../people/useMe.js';

/** The pages of what leaves the house, and of what follows. */
export function ParcelsNav() {
  const costs = can(useMe(), 'costs.see');
  return (
    <SubNav
      name="Parcels"
      pages={[
        ['/parcels', 'Parcels'],
        ['/parcels/compare', 'Quick quote'],
        ['/parcels/returns', 'Returns'],
        ['/parcels/claims', 'Claims'],
        ...(costs
          ? ([
              ['/parcels/bills', 'Carrier bills'],
              ['/parcels/costs', 'Shipping money'],
            ] as [string, string][])
          : []),
      ]}
    />
  );
}
