import { NavLink } from 'react-router';
import pageCss from './page.module.css';

/** The pages of one part of the house, side by side. The first path is that of the part itself. */
export function SubNav({ name, pages }: { name: string; pages: readonly [path: string, words: string][] }) {
  return (
    <nav className={pageCss.subnav} aria-label={name}>
      {pages.map(([path, words], i) => (
        <NavLink key={path} to={path} end={i === 0}>
          {words}
        </NavLink>
      ))}
    </nav>
  );
}
