import type { Answer } from '@auk/core';
import type { ReactNode } from 'react';
import pageCss from '../parts/page.module.css';
import css from './answer.module.css';

interface Props {
  answer: Pick<Answer, 'says' | 'next' | 'tone'> & { times?: number };
  /** Where it stands: at the foot of the Bench and the Dock, in a hand, in a box at a desk, or as one line of it. */
  where: 'foot' | 'hand' | 'box' | 'line';
  /** What is being typed at the moment. */
  typed?: string;
  /** Acts, at the right. */
  children?: ReactNode;
}

/** The answer to the last scan, and what comes next. The same answer twice is said as two. */
export function AnswerBar({ answer, where, typed, children }: Props) {
  const times = answer.times ?? 1;
  return (
    <div
      className={`${css.answer} ${css[where]} ${css[answer.tone]}`}
      data-part="answer"
      data-tone={answer.tone}
      role="status"
      aria-live="assertive"
    >
      <div className={pageCss.grow}>
        <b>{answer.says}</b>
        {typed ? <span className={css.typed}>{typed}</span> : answer.next}
        {times > 1 && <span className={css.again}> Said {times} times in a row.</span>}
      </div>
      {children}
    </div>
  );
}

/** Scans that wait because nothing reaches the server. */
export function OfflineNote({ words }: { words: string }) {
  return (
    <p className={css.typed} role="status">
      {words}
    </p>
  );
}
