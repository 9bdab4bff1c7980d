import { OrderCount } from '@auk/contract';
import Autocomplete from '@mui/material/Autocomplete';
import InputBase, { type InputBaseProps } from '@mui/material/InputBase';
import { useQuery } from '@tanstack/react-query';
import { Fragment, type ReactElement, useEffect, useRef, useState } from 'react';
import { foundProductsQuery } from '../../catalog/api.js';
import { channelsQuery } from '../../channels/api.js';
import { Choice } from '../../parts/Choice.js';
import { Drop } from '../../parts/Drop.js';
import sentenceCss from '../../parts/sentence.module.css';
import { useSearch } from '../../parts/useSearch.js';
import { countWords } from '../../parts/words.js';
import css from '../orders.module.css';
import { CLAUSES, type Clause, SORT_WORDS } from '../question.js';

interface Props {
  count: OrderCount | undefined;
  asked: URLSearchParams;
  set: (key: string, value: string) => void;
}

/** The filter as a sentence with changeable words. */
export function Sentence({ count, asked, set }: Props) {
  const [added, setAdded] = useState<string[]>([]);
  const channels = useQuery(channelsQuery);
  const shown = CLAUSES.filter(c => c.always || asked.get(c.key) || added.includes(c.key));
  const hidden = CLAUSES.filter(c => !shown.includes(c));
  const choicesOf = (c: Clause) =>
    c.key === 'channel' ? (channels.data ?? []).map(x => [x.code, x.name] as [string, string]) : c.choices;
  const add = (key: string) => {
    const clause = CLAUSES.find(c => c.key === key);
    if (!clause) return;
    setAdded(before => [...before, key]);
    if (clause.choices?.length === 1) set(key, clause.choices[0]![0]);
  };
  const drop = (key: string) => {
    setAdded(before => before.filter(k => k !== key));
    set(key, '');
  };
  return (
    <div className={sentenceCss.sentence} data-part="sentence">
      <b>{countWords(count)}</b> {count?.n === 1 && !count.over ? 'order' : 'orders'}
      {shown.map((c, i) => (
        <Fragment key={c.key}>
          {i === 0 ? ' ' : ', '}
          <span className={css.clause}>
            {c.before}{' '}
            <Words
              clause={c}
              choices={choicesOf(c)}
              value={asked.get(c.key) ?? ''}
              set={set}
              fresh={added.includes(c.key)}
            />
            {!c.always && <Drop label={`Any ${c.label.toLowerCase()}`} onDrop={() => drop(c.key)} />}
          </span>
        </Fragment>
      ))}
      {asked.get('departure') && (
        <>
          {', '}
          <span className={css.clause}>
            on <b>one departure</b>
            <Drop label="Any departure" onDrop={() => set('departure', '')} />
          </span>
        </>
      )}{' '}
      <span className={css.clause}>
        <Choice
          inSentence
          label="Add to the question"
          value=""
          options={[['', 'and …'], ...hidden.map(c => [c.key, c.label] as const)]}
          onChoose={add}
        />
      </span>
      {', '}
      <span className={css.clause}>
        <Choice
          inSentence
          label="Sort"
          value={asked.get('sort') ?? 'newest'}
          options={SORT_WORDS}
          onChoose={sort => set('sort', sort === 'newest' ? '' : sort)}
        />
      </span>
    </div>
  );
}

interface WordsProps {
  clause: Clause;
  choices: Clause['choices'];
  value: string;
  set: Props['set'];
  fresh: boolean;
}

/** The changeable words of one clause: a choice, a product, or words that are typed. */
function Words({ clause: c, choices, value, set, fresh }: WordsProps) {
  const place = useRef<HTMLSelectElement & HTMLInputElement>(null);
  const isNew = useRef(fresh && value === '');
  useEffect(() => {
    if (isNew.current) place.current?.focus();
  }, []);
  if (choices)
    return (
      <Choice
        inSentence
        inputRef={place}
        label={c.label}
        value={value}
        options={[['', c.any], ...choices]}
        onChoose={v => set(c.key, v)}
      />
    );
  if (c.key === 'words')
    return <SearchWords clause={c} value={value} onAsk={words => set(c.key, words.trim() && words)} />;
  const ask = (text: string) => text.trim() !== value && set(c.key, text.trim());
  const field = (more: InputBaseProps = {}) => (
    <InputBase
      {...more}
      className={`${sentenceCss.typed} ${css.typed}`}
      placeholder={c.any}
      inputRef={place}
      onBlur={e => ask(e.currentTarget.querySelector('input')?.value ?? (e.target as HTMLInputElement).value)}
      onKeyDown={e => e.key === 'Enter' && ask((e.target as HTMLInputElement).value)}
      inputProps={{ 'aria-label': c.label, ...more.inputProps }}
    />
  );
  if (c.key !== 'product') return <Fragment key={value}>{field({ defaultValue: value })}</Fragment>;
  return <ProductWords key={value} value={value} field={field} />;
}

/** Words in the sentence: the list follows while they are typed. */
function SearchWords(props: { clause: Clause; value: string; onAsk: (words: string) => void }) {
  const { clause: c, value, onAsk } = props;
  return (
    <InputBase
      {...useSearch(value, onAsk)}
      className={`${sentenceCss.typed} ${css.typed}`}
      placeholder={c.any}
      inputProps={{ 'aria-label': c.label }}
    />
  );
}

/** A product in the sentence: its SKU, with others that are called so. */
function ProductWords({ value, field }: { value: string; field: (more: InputBaseProps) => ReactElement }) {
  const [words, setWords] = useState('');
  const found = useQuery(foundProductsQuery(words));
  return (
    <Autocomplete
      freeSolo
      sx={{ display: 'inline-block', width: '13rem' }}
      defaultValue={value}
      options={(found.data?.rows ?? []).map(p => p.sku)}
      filterOptions={all => all}
      onInputChange={(_, typed) => setWords(typed.trim())}
      renderInput={({ slotProps }) =>
        field({ ref: slotProps.input.ref, inputProps: slotProps.htmlInput } as InputBaseProps)
      }
    />
  );
}
