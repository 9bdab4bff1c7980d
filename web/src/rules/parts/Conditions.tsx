import type { RuleWords } from '@auk/contract';
import {
  type Comparison,
  type Condition,
  fieldSpec,
  groupOf,
  MOST_NESTED,
  type Op,
  opsOf,
  readNumber,
} from '@auk/core';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { Choice } from '../../parts/Choice.js';
import { Drop } from '../../parts/Drop.js';
import css from '../rules.module.css';
import { EXAMPLES, fieldOptions, wordsFor } from '../words.js';
import { Words } from './Words.js';

interface Props {
  condition: Condition;
  words: RuleWords | undefined;
  currency: string;
  onChange: (condition: Condition) => void;
  /** Whether it asks for orders or for lines of one. */
  of?: 'order' | 'line';
  depth?: number;
}

const KINDS = [
  ['all', 'all of these'],
  ['any', 'any of these'],
  ['none', 'none of these'],
] as const;

const asGroup = (kind: 'all' | 'any' | 'none', parts: readonly Condition[]): Condition =>
  kind === 'all' ? { all: parts } : kind === 'any' ? { any: parts } : { none: parts };

/** A comparison to begin with. */
const FIRST: Record<'order' | 'line', Comparison> = {
  order: { field: 'country', is: 'one of', value: [] },
  line: { field: 'product', is: 'one of', value: [] },
};

/** What must hold: all, any or none of some things, each a comparison or again such a group. */
export function Conditions({ condition, words, currency, onChange, of = 'order', depth = 0 }: Props) {
  const { kind, parts } = groupOf(condition) ?? { kind: 'all' as const, parts: [condition] };
  const put = (i: number, part: Condition | null) =>
    onChange(asGroup(kind, part ? parts.with(i, part) : parts.filter((_, k) => k !== i)));
  const add = (part: Condition) => onChange(asGroup(kind, [...parts, part]));
  return (
    <section className={css.group} aria-label={depth === 0 ? 'When' : 'Part of the condition'}>
      {(parts.length > 1 || depth > 0) && (
        <Choice
          bare
          label="How the parts belong together"
          value={kind}
          options={KINDS}
          onChoose={k => onChange(asGroup(k, parts))}
        />
      )}
      {parts.map((part, i) => (
        <div key={i} className={css.part}>
          {groupOf(part) ? (
            <Conditions
              condition={part}
              words={words}
              currency={currency}
              of={of}
              depth={depth + 1}
              onChange={c => put(i, c)}
            />
          ) : (
            <OneComparison
              of={of}
              comparison={part as Comparison}
              words={words}
              currency={currency}
              onChange={c => put(i, c)}
            />
          )}
          <Drop label="Take this condition out" onDrop={() => put(i, null)} />
        </div>
      ))}
      <span>
        <Button size="small" onClick={() => add(FIRST[of])}>
          {parts.length === 0 ? 'Only when …' : 'And when …'}
        </Button>
        {parts.length > 0 && depth < MOST_NESTED - 1 && (
          <Button size="small" onClick={() => add({ any: [FIRST[of]] })}>
            A group of them
          </Button>
        )}
      </span>
    </section>
  );
}

interface OneProps {
  of: 'order' | 'line';
  comparison: Comparison;
  words: RuleWords | undefined;
  currency: string;
  onChange: (c: Comparison) => void;
}

function OneComparison({ of, comparison: c, words, currency, onChange }: OneProps) {
  const spec = fieldSpec(c.field)!;
  const choose = (field: string) => {
    const { kind } = fieldSpec(field)!;
    const [is] = opsOf(kind) as [Op];
    const value =
      kind === 'flag' ? {} : { value: hasWords(kind) ? [] : kind === 'count' ? 1 : (EXAMPLES[kind] ?? '') };
    onChange({ field, is, ...value });
  };
  const says: (op: Op) => string = op =>
    spec.kind === 'flag' ? (op === 'yes' ? 'yes' : `no: ${spec.no ?? ''}`) : op;
  return (
    <>
      <Choice bare label="What is looked at" value={c.field} options={fieldOptions[of]} onChoose={choose} />
      <Choice
        bare
        label={`How ${spec.words} is compared`}
        value={c.is}
        options={opsOf(spec.kind).map(op => [op, says(op)])}
        onChoose={is => onChange({ ...c, is })}
      />
      {hasWords(spec.kind) && <WordsOf comparison={c} words={words} onChange={onChange} />}
      {!hasWords(spec.kind) && spec.kind !== 'flag' && (
        <NumberOf comparison={c} currency={currency} onChange={onChange} />
      )}
    </>
  );
}

/** Fields that are compared with words; all others with a number, or with nothing. */
const hasWords = (kind: string): boolean => kind === 'choice' || kind === 'words' || kind === 'text';

function WordsOf({ comparison: c, words, onChange }: Pick<OneProps, 'comparison' | 'words' | 'onChange'>) {
  const services = new Map(words?.services.map(s => [s.code, s.name]));
  return (
    <Words
      label={`Which ${fieldSpec(c.field)!.words}`}
      value={c.value as readonly string[]}
      options={wordsFor(c.field, words)}
      called={w => (c.field === 'service' ? (services.get(w) ?? w) : w)}
      onChange={value => onChange({ ...c, value })}
    />
  );
}

/** A number with its unit, as it is typed; what cannot be read is told and not taken. */
function NumberOf({
  comparison: c,
  currency,
  onChange,
}: Pick<OneProps, 'comparison' | 'currency' | 'onChange'>) {
  const { kind, words } = fieldSpec(c.field)!;
  const [text, setText] = useState(String(c.value ?? ''));
  const typed = kind === 'count' ? Number(text) : text.trim();
  const read = text.trim() === '' ? null : readNumber(kind, typed, currency);
  const wrong = read === null ? `such as ${EXAMPLES[kind]}` : read.ok ? null : read.problem;
  return (
    <TextField
      value={text}
      error={wrong !== null}
      helperText={wrong}
      placeholder={EXAMPLES[kind]}
      onChange={e => {
        setText(e.target.value);
        const value = kind === 'count' ? Number(e.target.value) : e.target.value.trim();
        if (e.target.value.trim() !== '' && readNumber(kind, value, currency).ok) onChange({ ...c, value });
      }}
      slotProps={{ htmlInput: { 'aria-label': `${words} compared with`, size: 8 } }}
    />
  );
}
