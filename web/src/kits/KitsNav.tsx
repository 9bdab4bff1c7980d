import { NavLink } from 'react-router';

/** The places of Kits. */
export function KitsNav() {
  return (
    <nav className="kinds setupnav" aria-label="Kits">
      <NavLink to="/kits" end>
        Kits and bundles
      </NavLink>
      <NavLink to="/builds">Builds</NavLink>
    </nav>
  );
}
