import { NavLink } from 'react-router';

/** The places of Setup. */
export function SetupNav() {
  return (
    <nav className="kinds setupnav" aria-label="Setup">
      <NavLink to="/setup/channels">Channels</NavLink>
      <NavLink to="/setup/papers">Slips and invoices</NavLink>
    </nav>
  );
}
