import { actionWords, type CallsIt, conditionWords, plain, type Rule } from '@auk/core';
import { Fragment } from 'react';
import css from '../rules.module.css';
import { MOMENT_WORDS } from '../words.js';

/** A rule as it reads: when, then; what could be another word stands out. */
export function RuleSentence({ rule, calls }: { rule: Rule; calls: CallsIt }) {
  const when = plain(rule.when);
  const always = 'all' in when && when.all.length === 0;
  const does = [...rule.do.map(a => actionWords(a, calls)), ...(rule.stop ? ['stop the book there'] : [])];
  return (
    <>
      <span className={css.when}>
        <i>{MOMENT_WORDS[rule.at]}</i>
        {always ? ', always' : ', and '}
        {!always && <Marked text={conditionWords(when)} />}
      </span>
      <span className={css.then}>
        <i>then</i> {does.length > 0 ? <Marked text={does.join(', ')} /> : 'nothing yet'}
      </span>
    </>
  );
}

/** Words in quotes and numbers with their units are what one changes. */
function Marked({ text }: { text: string }) {
  const parts = text.split(/("(?:[^"\\]|\\.)*"|-?\d+(?:\.\d+)?(?: (?:lb|oz|kg|g|in|cm|mm|m|ft|min|h|d)\b)?)/);
  return (
    <>
      {parts.map((part, i) =>
        i % 2 === 1 ? (
          <b key={i}>{part.startsWith('"') ? part.slice(1, -1).replace(/\\(.)/g, '$1') : part}</b>
        ) : (
          <Fragment key={i}>{part}</Fragment>
        ),
      )}
    </>
  );
}
