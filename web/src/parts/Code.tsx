import { Link } from 'react-router';
import textCss from './text.module.css';

/** A code in a table that leads to what it stands for. */
export function CodeLink({ to, children }: { to: string; children: string }) {
  return (
    <Link className={`${textCss.code} ${textCss.name}`} to={to}>
      {children}
    </Link>
  );
}
