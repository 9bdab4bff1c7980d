import type { RuleBookView } from '@auk/contract';
import { isGroup, type NumberedRule, type RuleBook, type RuleGroup, rulesOf } from '@auk/core';
import { useQuery } from '@tanstack/react-query';
import { Sortable, useSorted } from '../../parts/Sortable.js';
import { Tick } from '../../parts/Tick.js';
import { proofsQuery, ruleWordsQuery } from '../api.js';
import {
  freeId,
  inGroup,
  inOrder,
  isComplete,
  sameBook,
  withCopy,
  withGroup,
  withoutRule,
  withRule,
} from '../draft.js';
import css from '../rules.module.css';
import { callsBy } from '../words.js';
import { RuleEditor } from './RuleEditor.js';
import { RuleRow } from './RuleRow.js';

interface Props {
  view: RuleBookView;
  book: RuleBook;
  may: boolean;
  open: string | null;
  onOpen: (id: string | null) => void;
  onChange: (book: RuleBook) => void;
  acted: (id: string) => { n: number; of: string } | null;
}

/** The rows of the book in their order; a group's rows stand below its name. */
export function BookRows(props: Props) {
  const { book, onChange } = props;
  const rules = rulesOf(book);
  const nameOf = (id: string) => {
    const rule = rules.find(r => r.id === id);
    return rule ? `rule ${rule.no} ${rule.name}` : (book.rows.find(r => r.id === id)?.name ?? id);
  };
  return (
    <Sortable
      ids={book.rows.map(r => r.id)}
      nameOf={nameOf}
      onOrder={ids => onChange(inOrder(book, ids, null))}
    >
      <ol className={css.book} aria-label="Rules">
        {book.rows.map(row =>
          isGroup(row) ? (
            <Group key={row.id} group={row} nameOf={nameOf} {...props} />
          ) : (
            <One key={row.id} rule={rules.find(r => r.id === row.id)!} {...props} />
          ),
        )}
      </ol>
    </Sortable>
  );
}

function Group({ group, nameOf, ...props }: Props & { group: RuleGroup; nameOf: (id: string) => string }) {
  const { book, may, onChange } = props;
  const rules = rulesOf(book);
  const { ref, style, handle } = useSorted(group.id, `the group ${group.name}`);
  return (
    <li ref={ref} style={style}>
      <div className={css.heading}>
        <span>{may && handle}</span>
        <b>{group.name}</b>
        <Tick
          label={`The group ${group.name} is on`}
          bare
          checked={group.on}
          disabled={!may}
          onTick={on => onChange(withGroup(book, group.id, on))}
        />
      </div>
      <Sortable
        ids={group.rules.map(r => r.id)}
        nameOf={nameOf}
        onOrder={ids => onChange(inOrder(book, ids, group.id))}
      >
        <ol className={css.inner}>
          {group.rules.map(r => (
            <One key={r.id} rule={rules.find(x => x.id === r.id)!} {...props} />
          ))}
        </ol>
      </Sortable>
    </li>
  );
}

/** One rule with its editor, when it is open. */
function One({ rule, view, book, may, open, onOpen, onChange, acted }: Props & { rule: NumberedRule }) {
  const words = useQuery(ruleWordsQuery);
  const saved = sameBook(book, view.book);
  // What was proved last stands until the next is: rows do not jump while somebody writes.
  const written = useQuery({
    ...proofsQuery(book),
    enabled: may && !saved && isComplete(book, view.currency),
    placeholderData: old => old,
  });
  const proofs = saved ? view.proofs : (written.data ?? view.proofs);
  const { no: _, runs: __, group, ...own } = rule;
  return (
    <RuleRow
      rule={rule}
      calls={callsBy(words.data)}
      proof={proofs.find(p => p.rule === rule.id)}
      missing={saved ? view.missing.filter(m => m.rule === rule.id) : []}
      acted={acted(rule.id)}
      open={open === rule.id}
      may={may}
      onOpen={() => onOpen(open === rule.id ? null : rule.id)}
      onTurn={on => onChange(withRule(book, { ...own, on }))}
    >
      {may && (
        <RuleEditor
          rule={own}
          group={group ?? ''}
          words={words.data}
          currency={view.currency}
          onChange={next => onChange(withRule(book, next))}
          onGroup={name => name !== (group ?? '') && onChange(inGroup(book, own, name, freeId(book, 'g')))}
          onCopy={() => onChange(withCopy(book, rule.id, freeId(book, 'r')))}
          onRemove={() => onChange(withoutRule(book, rule.id))}
          onLeave={() => onOpen(null)}
        />
      )}
    </RuleRow>
  );
}
