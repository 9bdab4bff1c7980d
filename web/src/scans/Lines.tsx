import type { ReactNode } from 'react';
import css from './bench.module.css';

/** The lines of an order at the Bench or the Dock; they scroll by keyboard too. */
export function Lines({ children }: { children: ReactNode }) {
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by keyboard (WCAG 2.1.1)
    <main className={css.lines} tabIndex={0} aria-label="Lines">
      {children}
    </main>
  );
}

/** What stands beside the lines; it scrolls by keyboard too. */
export function Beside({ children }: { children: ReactNode }) {
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by keyboard (WCAG 2.1.1)
    <aside className={css.side} tabIndex={0} aria-label="Beside the lines">
      {children}
    </aside>
  );
}
