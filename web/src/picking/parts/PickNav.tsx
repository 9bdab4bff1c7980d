import { SubNav } from '../../parts/SubNav.js';

/** The pages of Pick. */
export const PickNav = () => (
  <SubNav
    name="Pick"
    pages={[
      ['/pick', 'Pick lists'],
      ['/pick/plan', 'Plan'],
      ['/pick/troubles', 'What goes wrong'],
    ]}
  />
);
