import { SubNav } from '../../parts/SubNav.js';

/** The places of Stock. */
export const StockNav = () => (
  <SubNav
    name="Stock"
    pages={[
      ['/stock', 'What lies where'],
      ['/stock/counts', 'Counts'],
      ['/stock/places', 'Places'],
      ['/stock/totes', 'Totes and trolleys'],
      ['/stock/walls', 'Put walls'],
      ['/stock/floor', 'Floor map'],
    ]}
  />
);
