import type { RuleBook } from '@auk/core';
import Button from '@mui/material/Button';
import textCss from '../../parts/text.module.css';
import css from '../rules.module.css';
import { ruleFrom, STARTS, withStart } from '../starts.js';
import { RuleSentence } from './RuleSentence.js';

interface Props {
  book: RuleBook;
  onChange: (book: RuleBook) => void;
}

/** Ready sentences to begin from, each with what it is good for. Taken in, it counts when the book is saved. */
export function Starts({ book, onChange }: Props) {
  return (
    <section aria-label="Starting points">
      <h2>To begin from</h2>
      <ul className={css.starts}>
        {STARTS.map(start => (
          <li key={start.name}>
            <div>
              <b>{start.name}</b>
              <RuleSentence rule={ruleFrom(start, 'r')} calls={(_, code) => code} />
              <div className={textCss.quiet}>{start.note}</div>
            </div>
            <Button
              size="small"
              variant="outlined"
              aria-label={`Take in ${start.name}`}
              onClick={() => onChange(withStart(book, start))}
            >
              Take in
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
