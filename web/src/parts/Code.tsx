import { Link } from 'react-router';
import textCss from './text.module.css';

/** Codes of so many letters stay on one line; longer ones may break at their dashes. */
const SHORT = 12;
const look = (code: string): string => `${textCss.code} ${code.length <= SHORT ? textCss.whole : ''}`;

/** A code in a table. */
export function Code({ children }: { children: string }) {
  return <span className={look(children)}>{children}</span>;
}

/** A code in a table that leads to what it stands for. */
export function CodeLink({ to, children }: { to: string; children: string }) {
  return (
    <Link className={`${look(children)} ${textCss.name}`} to={to}>
      {children}
    </Link>
  );
}
