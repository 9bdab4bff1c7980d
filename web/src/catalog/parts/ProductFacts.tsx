import { type CaseView, ProductRow } from '@auk/contract';
import { type FactValue, formatMoney, PRODUCT_FACTS, parseAmount, parseSize, parseWeight } from '@auk/core';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Changes } from '../../parts/Changes.js';
import { Drop } from '../../parts/Drop.js';
import { Field } from '../../parts/Field.js';
import { Form } from '../../parts/Form.js';
import { moment, size, weight } from '../../parts/format.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { Tick } from '../../parts/Tick.js';
import textCss from '../../parts/text.module.css';
import { useCurrency } from '../../setup/useCurrency.js';
import { productHistoryQuery } from '../api.js';
import css from '../catalog.module.css';

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
      <ul className={css.plain}>
        {p.codes.map(c => (
          <li key={c.code}>
            <span className={textCss.code}>{c.code}</span>
            {c.units > 1 && <b> counts {c.units}</b>}
            {can && (
              <Drop label={`Take off ${c.code}`} onDrop={() => act('/codes/remove', { code: c.code })} />
            )}
            <CaseSize of={p.cases.find(x => x.code === c.code)} can={can} act={act} />
          </li>
        ))}
      </ul>
      {can && (
        <Form
          className={pageCss.fields}
          ready={code.trim() !== ''}
          onSend={() => {
            act('/codes', { code, units: Number(units) || 1 });
            setCode('');
            setUnits('1');
          }}
        >
          <Line bare label="New barcode" placeholder="scan or type a barcode" value={code} onType={setCode} />
          <span className={textCss.quiet}>counts</span>
          <Line bare digits width={4} label="Units of the barcode" value={units} onType={setUnits} />
          <Button type="submit" size="small" disabled={code.trim() === ''}>
            Give
          </Button>
        </Form>
      )}
      <h2>Also known as</h2>
      <ul className={css.plain}>
        {p.aliases.map(a => (
          <li key={a}>
            <span className={textCss.code}>{a}</span>
            {can && <Drop label={`Not known as ${a}`} onDrop={() => act('/aliases/remove', { code: a })} />}
          </li>
        ))}
      </ul>
      {can && (
        <Form
          ready={alias.trim() !== ''}
          onSend={() => {
            act('/aliases', { code: alias });
            setAlias('');
          }}
        >
          <Line
            bare
            label="Another code"
            placeholder="a supplier’s code, an old SKU"
            value={alias}
            onType={setAlias}
          />
        </Form>
      )}
    </>
  );
}

/** What a case measures and weighs, changed in place. */
function CaseSize({
  of,
  can,
  act,
}: {
  of: CaseView | undefined;
  can: boolean;
  act: (to: string, body: unknown) => void;
}) {
  if (!of) return null;
  const save = (more: Partial<CaseView>) => {
    act('/codes/measure', { code: of.code, ...more });
    return null;
  };
  return (
    <span className={css.case}>
      <Field
        label={`Size of the case ${of.code}`}
        placeholder={can ? 'size, as 16 x 12 x 10' : 'not measured'}
        value={of.size ? size(of.size) : ''}
        readOnly={!can}
        onSave={text => {
          const read = text === '' ? null : parseSize(text);
          return read && !read.ok ? read.problem : save({ size: read?.value ?? null });
        }}
      />
      <Field
        label={`Weight of the case ${of.code}`}
        placeholder={can ? 'weight, as 12 lb' : 'not weighed'}
        value={of.weightMg ? weight(of.weightMg) : ''}
        readOnly={!can}
        onSave={text => {
          const read = text === '' ? null : parseWeight(text);
          return read && !read.ok ? read.problem : save({ weightMg: read?.value ?? null });
        }}
      />
    </span>
  );
}

/** The facts of a product, each changed in place. */
export function Facts({
  product: p,
  can,
  save,
}: {
  product: ProductRow;
  can: boolean;
  save: (fields: Record<string, FactValue>) => void;
}) {
  const currency = useCurrency();
  const read: Record<string, (text: string) => FactValue | undefined> = {
    money: text => {
      const amount = parseAmount(text, currency);
      return amount.ok ? amount.value : undefined;
    },
    count: text => (Number.isInteger(Number(text)) ? Number(text) : undefined),
  };
  const wanted: Record<string, string> = { money: 'An amount such as 12.50.', count: 'A whole number.' };
  const put = (f: (typeof PRODUCT_FACTS)[number]) => (text: string) => {
    const value = text === '' ? null : (read[f.kind] ?? String)(text);
    if (value === undefined) return wanted[f.kind];
    save({ [f.key]: value });
  };
  return (
    <div>
      <h2>Facts</h2>
      <div className={css.flags}>
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
      <dl className={pageCss.facts}>
        {PRODUCT_FACTS.filter(f => f.kind !== 'flag').map(f => {
          const value = p.facts[f.key];
          const text =
            value === null || value === undefined
              ? ''
              : f.kind === 'money'
                ? formatMoney(Number(value), currency)
                : String(value);
          return (
            <div key={f.key} style={{ display: 'contents' }}>
              <dt>{f.words}</dt>
              <dd>
                <Field label={f.words} placeholder="none" value={text} readOnly={!can} onSave={put(f)} />
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
  const history = useQuery(productHistoryQuery(sku));
  const currency = useCurrency();
  if (!history.data || history.data.length === 0) return null;
  return (
    <>
      <h2>History</h2>
      <ul className={pageCss.history}>
        {[...history.data].reverse().map((h, i) => (
          <li key={`${h.at}${i}`}>
            <span className={textCss.quiet}>{moment(h.at)}</span>
            <div>
              {h.says} {h.person && <span className={textCss.quiet}>{h.person}</span>}
              <Changes changes={h.changes} currency={currency} />
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
    <Tick
      label={words}
      disabled={!can}
      checked={shown}
      onTick={now => {
        setShown(now);
        save(now);
      }}
    />
  );
}
