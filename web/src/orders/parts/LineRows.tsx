import { OrderLineView, OrderView } from '@auk/contract';
import { formatMoney, formatRate, HOLDS, lineRate, parseAmount, parseRate, rateOf } from '@auk/core';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { Link } from 'react-router';
import { Drop } from '../../parts/Drop.js';
import { Field } from '../../parts/Field.js';
import { weight } from '../../parts/format.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { Picture } from '../../parts/picture.js';
import { Tick } from '../../parts/Tick.js';
import textCss from '../../parts/text.module.css';
import css from '../orders.module.css';
import type { Save } from '../useOrderEdit.js';

/** How many units of each line go into another order, while they are being split off. */
export interface SplitUnits {
  on: boolean;
  units: Record<string, number>;
  set: (units: Record<string, number>) => void;
}

interface LineProps {
  line: OrderLineView;
  order: OrderView;
  save: Save;
  can: boolean;
  split: SplitUnits;
}

export function LineRows({ line: l, order, save, can, split }: LineProps) {
  const { currency } = order.row;
  // A draft has nothing yet, and what is cancelled lacks nothing.
  const stands = !order.draft && order.row.stage !== 'Cancelled';
  const own = l.parts.length === 1 && l.parts[0]!.productId === l.product?.id && l.units === 1;
  return (
    <>
      <TableRow>
        <TableCell align="right">
          {split.on ? (
            <UnitsToSplit line={l} split={split} />
          ) : (
            <Field
              right
              label={`Units of ${l.title}`}
              value={String(l.quantity)}
              readOnly={!can}
              onSave={text => {
                const n = Number(text);
                if (!Number.isInteger(n) || n < 1 || n > 10_000) return 'A whole number from 1 to 10,000.';
                save({ lines: [{ key: l.key, quantity: n }] });
              }}
            />
          )}
        </TableCell>
        <TableCell>
          <LineProduct line={l} />
        </TableCell>
        <TableCell className={textCss.quiet}>
          {own && stands ? where(l.parts[0]!.held, l.parts[0]!.quantity) : ''}
          {l.weightMg && <div>declared {weight(l.weightMg)}</div>}
          {can && !split.on ? (
            <Tick
              label="may be left out"
              checked={mayBeLeftOut(l)}
              onTick={on => save({ lines: [{ key: l.key, leaveOut: on ? 'yes' : 'no' }] })}
            />
          ) : (
            mayBeLeftOut(l) && <div>may be left out</div>
          )}
        </TableCell>
        <TableCell align="right">
          <Field
            right
            label={`Price of ${l.title}`}
            value={formatMoney(l.priceMinor, currency)}
            readOnly={!can}
            onSave={text => {
              const read = parseAmount(text, currency);
              if (!read.ok) return `${read.problem}.`;
              if (read.value < 0) return 'A price is not less than nothing.';
              save({ lines: [{ key: l.key, priceMinor: read.value }] });
            }}
          />
        </TableCell>
        <TableCell align="right">
          <TaxRate line={l} currency={currency} save={save} can={can} />
        </TableCell>
        <TableCell align="right">{formatMoney(l.total.goods, currency)}</TableCell>
        <TableCell>
          {can && !split.on && (
            <Drop
              label={`Take out ${l.title}`}
              onDrop={() => save({ lines: [{ key: l.key, remove: true }] })}
            />
          )}
        </TableCell>
      </TableRow>
      {!own &&
        l.parts.map(p => (
          <TableRow key={p.id} className={css.parts}>
            <TableCell align="right">{p.quantity}</TableCell>
            <TableCell>
              {p.name} <span className={textCss.code}>{p.sku}</span>
            </TableCell>
            <TableCell>{stands ? where(p.held, p.quantity) : ''}</TableCell>
            <TableCell colSpan={4} />
          </TableRow>
        ))}
    </>
  );
}

const mayBeLeftOut = (l: OrderLineView): boolean =>
  l.parts.length > 0 ? l.parts.every(p => p.optional) : l.leaveOut === 'yes';

function UnitsToSplit({ line: l, split }: Pick<LineProps, 'line' | 'split'>) {
  return (
    <>
      <Line
        bare
        digits
        label={`Units of ${l.title} to split off`}
        value={String(split.units[l.key] ?? 0)}
        onType={text => split.set({ ...split.units, [l.key]: Math.min(l.quantity, Number(text)) })}
      />
      <div className={textCss.quiet}>of {l.quantity}</div>
    </>
  );
}

function LineProduct({ line: l }: { line: OrderLineView }) {
  return (
    <div className={pageCss.pair}>
      <Picture name={l.product?.picture ?? null} size={28} />
      <div>
        {l.product?.name ?? l.title}
        {l.product && l.product.kind !== 'piece' && <span className={textCss.quiet}> {l.product.kind}</span>}
        {l.units > 1 && <span className={textCss.quiet}> {l.units} of it a sale</span>}
        <div className={`${textCss.code} ${textCss.quiet}`}>
          {l.product ? (
            <Link className={textCss.name} to={`/products/${encodeURIComponent(l.product.sku)}`}>
              {l.product.sku}
            </Link>
          ) : (
            l.channelSku
          )}
        </div>
        {l.product?.missing
          .filter(m => m.fact !== 'code')
          .map(m => (
            <div key={m.fact} className={`${textCss.risk} ${textCss.small}`}>
              {m.costs}
            </div>
          ))}
      </div>
    </div>
  );
}

interface TaxProps {
  line: OrderLineView;
  currency: string;
  save: Save;
  can: boolean;
}

function TaxRate({ line: l, currency, save, can }: TaxProps) {
  const rate =
    l.taxPpm ??
    (l.taxMinor === null ? 0 : rateOf(l.taxMinor, l.total.goods - l.total.discount) || lineRate(l));
  return (
    <>
      <Field
        right
        label={`Tax rate of ${l.title}`}
        value={rate === 0 && l.total.tax === 0 ? '' : formatRate(Math.round(rate / 100) * 100)}
        placeholder="none"
        readOnly={!can}
        onSave={text => {
          const ppm = text === '' ? 0 : parseRate(text);
          if (ppm === null || ppm < 0 || ppm > 1_000_000) return 'A percentage such as 7.25.';
          save({ lines: [{ key: l.key, taxPpm: ppm }] });
        }}
      />
      {l.total.tax > 0 && <div className={textCss.quiet}>{formatMoney(l.total.tax, currency)}</div>}
    </>
  );
}

function where(held: Record<string, number>, of: number): string {
  const known = HOLDS.filter(h => held[h]! > 0).map(h => `${held[h]} ${h === 'soft' ? 'reserved' : h}`);
  const sum = HOLDS.reduce((n, h) => n + held[h]!, 0);
  return [...known, ...(sum < of ? [`${of - sum} missing`] : [])].join(', ');
}
