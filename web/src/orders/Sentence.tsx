import { ChannelView, OrderCount, ProductRow, pageOf } from '@auk/contract';
import { useQuery } from '@tanstack/react-query';
import { Fragment, useEffect, useRef, useState } from 'react';
import { get } from '../api.js';
import { countWords } from '../parts/words.js';
import { CLAUSES, type Clause, SORT_WORDS } from './question.js';

interface Props {
  count: OrderCount | undefined;
  asked: URLSearchParams;
  set: (key: string, value: string) => void;
}

/** The filter as a sentence with changeable words. */
export function Sentence({ count, asked, set }: Props) {
  const [added, setAdded] = useState<string[]>([]);
  const channels = useQuery({ queryKey: ['channels'], queryFn: () => get(ChannelView.array(), 'channels') });
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
    <p className="sentence">
      <b className="n">{countWords(count)}</b> {count?.n === 1 && !count.over ? 'order' : 'orders'}
      {shown.map((c, i) => (
        <Fragment key={c.key}>
          {i === 0 ? ' ' : ', '}
          <span className="clause">
            {c.before}{' '}
            <Words
              clause={c}
              choices={choicesOf(c)}
              value={asked.get(c.key) ?? ''}
              set={set}
              fresh={added.includes(c.key)}
            />
            {!c.always && <Drop label={`Any ${c.label.toLowerCase()}`} act={() => drop(c.key)} />}
          </span>
        </Fragment>
      ))}
      {asked.get('departure') && (
        <>
          {', '}
          <span className="clause">
            on <b>one departure</b>
            <Drop label="Any departure" act={() => set('departure', '')} />
          </span>
        </>
      )}{' '}
      <span className="clause">
        <select
          className="more"
          aria-label="Add to the question"
          value=""
          onChange={e => add(e.target.value)}
        >
          <option value="">and …</option>
          {hidden.map(c => (
            <option key={c.key} value={c.key}>
              {c.label}
            </option>
          ))}
        </select>
      </span>
      {', '}
      <span className="clause">
        <select
          aria-label="Sort"
          value={asked.get('sort') ?? 'newest'}
          onChange={e => set('sort', e.target.value === 'newest' ? '' : e.target.value)}
        >
          {SORT_WORDS.map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </select>
      </span>
    </p>
  );
}

function Drop({ label, act }: { label: string; act: () => void }) {
  return (
    <button type="button" className="drop-clause" aria-label={label} onClick={act}>
      ×
    </button>
  );
}

function Words({
  clause: c,
  choices,
  value,
  set,
  fresh,
}: {
  clause: Clause;
  choices: Clause['choices'];
  value: string;
  set: Props['set'];
  fresh: boolean;
}) {
  // biome-ignore lint/suspicious/noExplicitAny: a select or an input, both are focused alike
  const place = useRef<any>(null);
  const isNew = useRef(fresh && value === '');
  useEffect(() => {
    if (isNew.current) place.current?.focus();
  }, []);
  if (choices)
    return (
      <select aria-label={c.label} ref={place} value={value} onChange={e => set(c.key, e.target.value)}>
        <option value="">{c.any}</option>
        {choices.map(([v, words]) => (
          <option key={v} value={v}>
            {words}
          </option>
        ))}
      </select>
    );
  return (
    <>
      <input
        key={value}
        aria-label={c.label}
        ref={place}
        placeholder={c.any}
        defaultValue={value}
        list={c.list}
        onKeyDown={e => e.key === 'Enter' && set(c.key, e.currentTarget.value.trim())}
        onBlur={e => e.currentTarget.value.trim() !== value && set(c.key, e.currentTarget.value.trim())}
      />
      {c.list === 'products' && <ProductList />}
    </>
  );
}

function ProductList() {
  const products = useQuery({
    queryKey: ['products', ''],
    queryFn: () => get(pageOf(ProductRow), 'products'),
  });
  return (
    <datalist id="products">
      {products.data?.rows.map(p => (
        <option key={p.sku} value={p.sku}>
          {p.name}
        </option>
      ))}
    </datalist>
  );
}
