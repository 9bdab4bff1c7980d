import { ProductHistory, ProductRow } from '@auk/contract';
import { type FactValue, formatMoney, PRODUCT_FACTS, parseAmount } from '@auk/core';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { get } from '../api.js';
import { Changes } from '../parts/Changes.js';
import { Field } from '../parts/Field.js';
import { moment } from '../parts/format.js';

/** Barcodes with what each counts, and the other codes it is known by. */
export function Codes({
  product: p,
  can,
  act,
}: {
  product: ProductRow;
  can: boolean;
  act: (to: string, body: unknown) => void;
}) {
  const [code, setCode] = useState('');
  const [units, setUnits] = useState('1');
  const [alias, setAlias] = useState('');
  return (
    <>
      <h2>Barcodes</h2>
      <ul className="plain">
        {p.codes.map(c => (
          <li key={c.code}>
            <span className="code">{c.code}</span>
            {c.units > 1 && <b> counts {c.units}</b>}
            {can && (
              <button
                type="button"
                className="drop-clause"
                aria-label={`Take off ${c.code}`}
                onClick={() => act('/codes/remove', { code: c.code })}
              >
                ×
              </button>
            )}
          </li>
        ))}
      </ul>
      {can && (
        <form
          className="noteform"
          onSubmit={e => {
            e.preventDefault();
            if (code.trim()) act('/codes', { code, units: Number(units) || 1 });
            setCode('');
            setUnits('1');
          }}
        >
          <input
            aria-label="New barcode"
            placeholder="scan or type a barcode"
            value={code}
            onChange={e => setCode(e.target.value)}
          />
          <label className="quiet">
            counts{' '}
            <input
              aria-label="Units of the barcode"
              type="number"
              min={1}
              style={{ width: 56 }}
              value={units}
              onChange={e => setUnits(e.target.value)}
            />
          </label>
          <Button type="submit" size="small" disabled={code.trim() === ''}>
            Give
          </Button>
        </form>
      )}
      <h2>Also known as</h2>
      <ul className="plain">
        {p.aliases.map(a => (
          <li key={a}>
            <span className="code">{a}</span>
            {can && (
              <button
                type="button"
                className="drop-clause"
                aria-label={`Not known as ${a}`}
                onClick={() => act('/aliases/remove', { code: a })}
              >
                ×
              </button>
            )}
          </li>
        ))}
      </ul>
      {can && (
        <form
          className="noteform"
          onSubmit={e => {
            e.preventDefault();
            if (alias.trim()) act('/aliases', { code: alias });
            setAlias('');
          }}
        >
          <input
            aria-label="Another code"
            placeholder="a supplier’s code, an old SKU"
            value={alias}
            onChange={e => setAlias(e.target.value)}
          />
        </form>
      )}
    </>
  );
}

/** The facts of a product, each changed in place. */
export function Facts({
  product: p,
  can,
  save,
  say,
}: {
  product: ProductRow;
  can: boolean;
  save: (fields: Record<string, FactValue>) => void;
  say: (text: string) => void;
}) {
  const money = (key: string) => (text: string) => {
    if (text === '') return save({ [key]: null });
    const read = parseAmount(text, 'USD');
    if (read.ok) save({ [key]: read.value });
    else say(`${read.problem}.`);
  };
  const number = (key: string) => (text: string) =>
    text === '' || Number.isInteger(Number(text))
      ? save({ [key]: text === '' ? null : Number(text) })
      : say('Type a whole number.');
  return (
    <div>
      <h2>Facts</h2>
      <div className="flags">
        {PRODUCT_FACTS.filter(f => f.kind === 'flag').map(f => (
          <Flag
            key={f.key}
            words={f.words}
            on={p.facts[f.key] === true}
            can={can}
            save={on => save({ [f.key]: on })}
          />
        ))}
      </div>
      <dl>
        {PRODUCT_FACTS.filter(f => f.kind !== 'flag').map(f => {
          const value = p.facts[f.key];
          const text =
            value === null || value === undefined
              ? ''
              : f.kind === 'money'
                ? formatMoney(Number(value), 'USD')
                : String(value);
          return (
            <div key={f.key} style={{ display: 'contents' }}>
              <dt>{f.words}</dt>
              <dd>
                <Field
                  label={f.words}
                  placeholder="none"
                  value={text}
                  readOnly={!can}
                  wide
                  onSave={
                    f.kind === 'money'
                      ? money(f.key)
                      : f.kind === 'count'
                        ? number(f.key)
                        : v => save({ [f.key]: v || null })
                  }
                />
              </dd>
            </div>
          );
        })}
      </dl>
    </div>
  );
}

/** Every change of the product, newest first. */
export function History({ sku }: { sku: string }) {
  const history = useQuery({
    queryKey: ['product', sku, 'history'],
    queryFn: () => get(ProductHistory.array(), `products/${encodeURIComponent(sku)}/history`),
  });
  if (!history.data || history.data.length === 0) return null;
  return (
    <>
      <h2>History</h2>
      <ul className="history">
        {[...history.data].reverse().map((h, i) => (
          <li key={`${h.at}${i}`}>
            <span className="quiet">{moment(h.at)}</span>
            <div>
              {h.says} {h.person && <span className="quiet">{h.person}</span>}
              <Changes changes={h.changes} />
            </div>
          </li>
        ))}
      </ul>
    </>
  );
}

/** A yes or no that shows at once what was pressed, and follows the product when it is answered. */
function Flag({
  words,
  on,
  can,
  save,
}: {
  words: string;
  on: boolean;
  can: boolean;
  save: (on: boolean) => void;
}) {
  const [shown, setShown] = useState(on);
  useEffect(() => setShown(on), [on]);
  return (
    <label>
      <input
        type="checkbox"
        disabled={!can}
        checked={shown}
        onChange={e => {
          setShown(e.target.checked);
          save(e.target.checked);
        }}
      />{' '}
      {words}
    </label>
  );
}
