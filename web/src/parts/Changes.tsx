import type { Change } from '@auk/core';
import pageCss from './page.module.css';
import { fieldWords, valueWords } from './words.js';

/** Changes field by field: what it was, what it is; money in the currency of what changed. */
export function Changes({ changes, currency }: { changes: readonly Change[]; currency: string }) {
  if (changes.length === 0) return null;
  return (
    <ul className={pageCss.changes}>
      {changes.map(c => (
        <li key={`${c.line} ${c.field}`}>
          <span>{fieldWords(c)}</span>{' '}
          {c.before !== null && c.before !== '' && <del>{valueWords(c.field, c.before, currency)}</del>}{' '}
          <span aria-hidden="true">→</span> <ins>{valueWords(c.field, c.after, currency)}</ins>
        </li>
      ))}
    </ul>
  );
}
