import { SubNav } from '../../parts/SubNav.js';

/** The places of Kits. */
export const KitsNav = () => (
  <SubNav
    name="Kits"
    pages={[
      ['/kits', 'Kits and bundles'],
      ['/builds', 'Builds'],
    ]}
  />
);
