import { NavLink } from 'react-router';

/** The places of Stock. */
export function StockNav() {
  return (
    <nav className="kinds setupnav" aria-label="Stock">
      <NavLink to="/stock" end>
        What lies where
      </NavLink>
      <NavLink to="/stock/counts">Counts</NavLink>
      <NavLink to="/stock/places">Places</NavLink>
    </nav>
  );
}
