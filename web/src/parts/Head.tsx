import type { ReactNode } from 'react';
import pageCss from './page.module.css';
import textCss from './text.module.css';
import { useTitle } from './useTitle.js';

interface Props {
  title: ReactNode;
  /** The title in plain words, for the tab of the browser; the title itself where it is words already. */
  tab?: string;
  /** One line of what the page is. */
  about?: ReactNode;
  /** Stands before the title: a picture. */
  sign?: ReactNode;
  /** Acts, at the right. */
  children?: ReactNode;
}

/** The head of every page of the desk: its title, one line of what it is, its acts at the right. */
export function Head({ title, tab, about, sign, children }: Props) {
  useTitle(tab ?? (typeof title === 'string' ? title : ''));
  return (
    <div className={pageCss.head}>
      {sign}
      <div className={pageCss.headWords}>
        <h1>{title}</h1>
        {about && <div className={textCss.quiet}>{about}</div>}
      </div>
      {children}
    </div>
  );
}
