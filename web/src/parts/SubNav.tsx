import { NavLink } from 'react-router';

/** The pages of one part of the house, side by side. The first path is that of the part itself. */
export function SubNav({ name, pages }: { name: string; pages: readonly [path: string, words: string][] }) {
  return (
    <nav className="kinds subnav" aria-label={name}>
      {pages.map(([path, words], i) => (
        <NavLink key={path} to={path} end={i === 0}>
          {words}
        </NavLink>
      ))}
    </nav>
  );
}
