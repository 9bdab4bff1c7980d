import { OrderLineView, OrderView, ProductRow, pageOf } from '@auk/contract';
import {
  formatMoney,
  formatRate,
  formatWeight,
  HOLDS,
  lineRate,
  parseAmount,
  parseRate,
  parseWeight,
  rateOf,
} from '@auk/core';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { get } from '../api.js';
import { Field } from '../parts/Field.js';
import { Picture } from '../parts/picture.js';
import type { useOrderEdit } from './useOrderEdit.js';

type Save = ReturnType<typeof useOrderEdit>['save'];

interface Props {
  order: OrderView;
  save: Save;
  can: boolean;
  split: { on: boolean; units: Record<string, number>; set: (units: Record<string, number>) => void };
}

/** The lines of an order with their parts, and what can be done to them. */
export function LinesPanel({ order, save, can, split }: Props) {
  const [wrong, setWrong] = useState('');
  return (
    <section>
      <table className="list lines">
        <thead>
          <tr>
            <th className="num">{split.on ? 'Split off' : 'Units'}</th>
            <th>Product</th>
            <th>Where they stand</th>
            <th className="num">Each</th>
            <th className="num">Tax</th>
            <th className="num">Sum</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {order.lines.map(l => (
            <LineRows key={l.id} line={l} order={order} save={save} can={can} say={setWrong} split={split} />
          ))}
          {order.lines.length === 0 && (
            <tr>
              <td colSpan={7} className="empty">
                No lines yet. Scan a product, or find it by SKU or name below.
              </td>
            </tr>
          )}
        </tbody>
      </table>
      {wrong && (
        <div className="problem" role="alert">
          {wrong}
        </div>
      )}
      {can && !split.on && (
        <div className="lineacts">
          <AddLine save={save} />
          {order.lines.length > 0 && <AllLines order={order} save={save} say={setWrong} />}
        </div>
      )}
    </section>
  );
}

function LineRows({
  line: l,
  order,
  save,
  can,
  say,
  split,
}: {
  line: OrderLineView;
  order: OrderView;
  save: Save;
  can: boolean;
  say: (text: string) => void;
  split: Props['split'];
}) {
  const { currency } = order.row;
  const own = l.parts.length === 1 && l.parts[0]!.productId === l.product?.id && l.units === 1;
  const amount = (text: string) => {
    const read = parseAmount(text, currency);
    if (!read.ok || read.value < 0)
      return say(read.ok ? 'A price is not less than nothing.' : `${read.problem}.`);
    say('');
    save({ lines: [{ key: l.key, priceMinor: read.value }] });
  };
  const quantity = (text: string) => {
    const n = Number(text);
    if (!Number.isInteger(n) || n < 1 || n > 10_000)
      return say('A quantity is a whole number from 1 to 10,000.');
    say('');
    save({ lines: [{ key: l.key, quantity: n }] });
  };
  const tax = (text: string) => {
    const ppm = text === '' ? 0 : parseRate(text);
    if (ppm === null || ppm < 0 || ppm > 1_000_000) return say('A tax rate is a percentage such as 7.25.');
    say('');
    save({ lines: [{ key: l.key, taxPpm: ppm }] });
  };
  const rate =
    l.taxPpm ??
    (l.taxMinor === null ? 0 : rateOf(l.taxMinor, l.total.goods - l.total.discount) || lineRate(l));
  return (
    <>
      <tr>
        <td className="num">
          {split.on ? (
            <input
              className="field num"
              aria-label={`Units of ${l.title} to split off`}
              type="number"
              min={0}
              max={l.quantity}
              value={split.units[l.key] ?? 0}
              onChange={e =>
                split.set({
                  ...split.units,
                  [l.key]: Math.max(0, Math.min(l.quantity, Math.floor(Number(e.target.value)))),
                })
              }
            />
          ) : (
            <Field
              label={`Units of ${l.title}`}
              value={String(l.quantity)}
              readOnly={!can}
              onSave={quantity}
            />
          )}
          {split.on && <div className="quiet">of {l.quantity}</div>}
        </td>
        <td>
          <div className="row" style={{ gap: 8 }}>
            <Picture name={l.product?.picture ?? null} size={28} />
            <div>
              {l.product?.name ?? l.title}
              {l.product && l.product.kind !== 'piece' && <span className="quiet"> {l.product.kind}</span>}
              {l.units > 1 && <span className="quiet"> {l.units} of it a sale</span>}
              <div className="code quiet">
                {l.product ? (
                  <Link to={`/products/${encodeURIComponent(l.product.sku)}`}>{l.product.sku}</Link>
                ) : (
                  l.channelSku
                )}
              </div>
              {l.product?.missing
                .filter(m => m.fact !== 'code')
                .map(m => (
                  <div key={m.fact} className="risk small">
                    {m.costs}
                  </div>
                ))}
            </div>
          </div>
        </td>
        <td className="quiet">
          {own && !order.draft ? where(l.parts[0]!.held, l.parts[0]!.quantity) : ''}
          {l.weightMg && <div>declared {formatWeight(l.weightMg, 'imperial')}</div>}
        </td>
        <td className="num">
          <Field
            label={`Price of ${l.title}`}
            value={formatMoney(l.priceMinor, currency)}
            readOnly={!can}
            onSave={amount}
          />
        </td>
        <td className="num">
          <Field
            label={`Tax rate of ${l.title}`}
            value={rate === 0 && l.total.tax === 0 ? '' : formatRate(Math.round(rate / 100) * 100)}
            placeholder="none"
            readOnly={!can}
            onSave={tax}
          />
          {l.total.tax > 0 && <div className="quiet">{formatMoney(l.total.tax, currency)}</div>}
        </td>
        <td className="num">{formatMoney(l.total.goods, currency)}</td>
        <td>
          {can && !split.on && (
            <button
              type="button"
              className="drop-clause"
              aria-label={`Take out ${l.title}`}
              onClick={() => save({ lines: [{ key: l.key, remove: true }] })}
            >
              ×
            </button>
          )}
        </td>
      </tr>
      {!own &&
        l.parts.map(p => (
          <tr key={p.id} className="parts">
            <td className="num">{p.quantity}</td>
            <td>
              {p.name} <span className="code">{p.sku}</span>
            </td>
            <td>{order.draft ? '' : where(p.held, p.quantity)}</td>
            <td colSpan={4} />
          </tr>
        ))}
    </>
  );
}

function where(held: Record<string, number>, of: number): string {
  const known = HOLDS.filter(h => held[h]! > 0).map(h => `${held[h]} ${h === 'soft' ? 'reserved' : h}`);
  const sum = HOLDS.reduce((n, h) => n + held[h]!, 0);
  return [...known, ...(sum < of ? [`${of - sum} missing`] : [])].join(', ');
}

function AddLine({ save }: { save: Save }) {
  const [words, setWords] = useState('');
  const found = useQuery({
    queryKey: ['products', words],
    queryFn: () => get(pageOf(ProductRow), `products?words=${encodeURIComponent(words)}&size=8`),
    enabled: words.trim().length > 1,
  });
  const add = (sku: string) => {
    setWords('');
    save({ lines: [{ sku, quantity: 1 }] });
  };
  const rows = (words.trim().length > 1 ? found.data?.rows : [])?.filter(p => p.stage !== 'Retired') ?? [];
  return (
    <form
      className="addline"
      onSubmit={e => {
        e.preventDefault();
        const exact = rows.find(p => p.sku === words.trim().toUpperCase());
        if (words.trim() !== '') add((exact ?? rows[0])?.sku ?? words.trim());
      }}
    >
      <input
        aria-label="Add a line"
        placeholder="Add a line: SKU or name, then Enter"
        value={words}
        onChange={e => setWords(e.target.value)}
      />
      {rows.length > 0 && (
        <ul className="suggest">
          {rows.map(p => (
            <li key={p.sku}>
              <button type="button" onClick={() => add(p.sku)}>
                <Picture name={p.picture} size={24} /> <span className="grow cut">{p.name}</span>{' '}
                <span className="code quiet">{p.sku}</span>{' '}
                <span className="quiet">{p.kind === 'bundle' ? 'bundle' : `${p.free} free`}</span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </form>
  );
}

type All = 'off' | 'up' | 'amount' | 'tax' | 'weight' | 'each';
const ALL: [All, words: string, hint: string][] = [
  ['off', 'take off, in percent', '10 %'],
  ['up', 'put on, in percent', '5 %'],
  ['amount', 'put on each price', '-0.50'],
  ['tax', 'set the tax rate', '7.25 %'],
  ['each', 'share out a weight', '12 lb'],
  ['weight', 'declare the whole weight', '12 lb'],
];

/** One act over all lines at once. */
function AllLines({ order, save, say }: { order: OrderView; save: Save; say: (text: string) => void }) {
  const [act, setAct] = useState<All>('off');
  const [text, setText] = useState('');
  const apply = () => {
    const done = (edit: Parameters<Save>[0]) => {
      say('');
      setText('');
      save(edit);
    };
    if (act === 'weight' || act === 'each') {
      const mg = parseWeight(text);
      if (!mg.ok) return say(mg.problem);
      return done(
        act === 'weight' ? { weightOverrideMg: mg.value } : { all: { type: 'weight', mg: mg.value } },
      );
    }
    if (act === 'amount') {
      const amount = parseAmount(text, order.row.currency);
      return amount.ok ? done({ all: { type: 'amount', minor: amount.value } }) : say(`${amount.problem}.`);
    }
    const ppm = parseRate(text);
    if (ppm === null || ppm < 0) return say('Type a percentage such as 10 or 7.25.');
    done({
      all: act === 'tax' ? { type: 'tax', ppm } : { type: 'percent', ppm: act === 'off' ? -ppm : ppm },
    });
  };
  return (
    <form
      className="all"
      onSubmit={e => {
        e.preventDefault();
        apply();
      }}
    >
      All lines:{' '}
      <select aria-label="Act on all lines" value={act} onChange={e => setAct(e.target.value as All)}>
        {ALL.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </select>
      <input
        aria-label="By how much"
        placeholder={ALL.find(([a]) => a === act)![2]}
        value={text}
        onChange={e => setText(e.target.value)}
      />
      <Button type="submit" size="small" variant="outlined" disabled={text.trim() === ''}>
        Apply
      </Button>
    </form>
  );
}
