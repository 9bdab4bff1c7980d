import type { RuleProof } from '@auk/contract';
import type { CallsIt, NumberedRule } from '@auk/core';
import ButtonBase from '@mui/material/ButtonBase';
import type { ReactNode } from 'react';
import { useSorted } from '../../parts/Sortable.js';
import { Tick } from '../../parts/Tick.js';
import textCss from '../../parts/text.module.css';
import css from '../rules.module.css';
import { RuleSentence } from './RuleSentence.js';

interface Props {
  rule: NumberedRule;
  calls: CallsIt;
  proof: RuleProof | undefined;
  missing: readonly { says: string; cure: string }[];
  /** On how many orders it acted, or would act, and of how many. */
  acted: { n: number; of: string } | null;
  open: boolean;
  may: boolean;
  onOpen: () => void;
  onTurn: (on: boolean) => void;
  children: ReactNode;
}

/** Verdicts that a person should look at. */
const BAD: readonly RuleProof['is'][] = ['contradicts itself', 'never acts', 'always overridden'];

/** One sentence of the book, with what is known of it; opened, its editor stands below. */
export function RuleRow(props: Props) {
  const { rule, calls, proof, missing, acted, open, may, onOpen, onTurn, children } = props;
  const { ref, style, handle } = useSorted(rule.id, `rule ${rule.no} ${rule.name}`);
  return (
    <li ref={ref} style={style} className={`${css.row} ${open ? css.open : ''} ${rule.runs ? '' : css.off}`}>
      <span>{may && handle}</span>
      <b className={css.no}>{rule.no}</b>
      <div>
        <ButtonBase
          className={css.opens}
          aria-expanded={open}
          aria-label={`${open ? 'Close' : 'Open'} rule ${rule.no} ${rule.name}`}
          onClick={onOpen}
        >
          <span className={css.name}>
            {rule.name || 'a new rule'}
            {rule.note !== '' && !open && <small> · {rule.note}</small>}
          </span>
          <RuleSentence rule={rule} calls={calls} />
        </ButtonBase>
        {proof && BAD.includes(proof.is) && <div className={textCss.risk}>▲ {proof.says}</div>}
        {proof?.is === 'unknown' && <div className={textCss.quiet}>◌ {proof.says}</div>}
        {missing.map(m => (
          <div key={m.says} className={textCss.stop}>
            ▲ {m.says} {m.cure}
          </div>
        ))}
      </div>
      <div className={css.count}>
        {acted && (
          <>
            <b>{acted.n}</b>
            <small>{acted.of}</small>
          </>
        )}
      </div>
      <Tick label={`Rule ${rule.no} is on`} bare checked={rule.on} disabled={!may} onTick={onTurn} />
      {open && <div className={css.below}>{children}</div>}
    </li>
  );
}
