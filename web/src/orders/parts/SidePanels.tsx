import { formatMoney, PAYMENTS, parseAmount, parseWeight } from '@auk/core';
import { Link } from 'react-router';
import { Choice } from '../../parts/Choice.js';
import { CodeLink } from '../../parts/Code.js';
import { DayField } from '../../parts/DayField.js';
import { Field } from '../../parts/Field.js';
import { day, moment, weight } from '../../parts/format.js';
import pageCss from '../../parts/page.module.css';
import textCss from '../../parts/text.module.css';
import { TrackMark } from '../../tracking/parts/TrackMark.js';
import type { PanelProps } from '../useOrderEdit.js';

/** What it costs, what was paid, and what is due or to refund. Once an order is not `open` any more, only what was paid can change. */
export function MoneyPanel({ order: o, save, can, open }: PanelProps & { open: boolean }) {
  const { currency } = o.row;
  const m = o.money;
  const show = (minor: number) => formatMoney(minor, currency);
  // A draft that is paid is paid in full, whatever it comes to when it is entered.
  const inFull = o.draft && o.payment === 'paid' && m.paidMinor === 0 && m.totalMinor > 0;
  const put = (field: 'shippingMinor' | 'discountMinor' | 'paidMinor') => (text: string) => {
    const read = parseAmount(text || '0', currency);
    if (!read.ok) return `${read.problem}.`;
    if (read.value < 0) return 'Not less than nothing.';
    save({ [field]: read.value });
  };
  return (
    <section className={pageCss.panel}>
      <h2>Money</h2>
      <dl className={`${pageCss.facts} ${pageCss.money}`} data-part="money">
        <dt>Goods</dt>
        <dd>{show(m.goodsMinor)}</dd>
        <dt>Discount</dt>
        <dd>
          <Field
            label="Discount"
            value={show(m.discountMinor)}
            readOnly={!open}
            onSave={put('discountMinor')}
          />
        </dd>
        <dt>Shipping</dt>
        <dd>
          <Field
            label="Shipping"
            value={show(m.shippingMinor)}
            readOnly={!open}
            onSave={put('shippingMinor')}
          />
        </dd>
        <dt>Tax</dt>
        <dd>{show(m.taxMinor)}</dd>
        <dt>
          <b>Total</b>
        </dt>
        <dd>
          <b>{show(m.totalMinor)}</b>
        </dd>
        <dt>
          <Choice
            bare
            label="Payment"
            value={o.payment}
            disabled={!can}
            options={PAYMENTS.map(p => [p, p])}
            onChoose={payment => save({ payment })}
          />
        </dt>
        <dd>
          <Field label="Paid" value={show(m.paidMinor)} readOnly={!can} onSave={put('paidMinor')} />
        </dd>
        {o.labelsMinor !== null && (
          <>
            <dt>Labels cost</dt>
            <dd className={o.labelsMinor > m.shippingMinor ? textCss.risk : ''}>
              {show(o.labelsMinor)}
              {o.labelsMinor > m.shippingMinor && (
                <div className={textCss.small}>
                  ! {show(o.labelsMinor - m.shippingMinor)} more than was paid for shipping
                </div>
              )}
            </dd>
          </>
        )}
        {inFull && (
          <>
            <dt>In full</dt>
            <dd className={textCss.quiet}>when it is entered</dd>
          </>
        )}
        {o.settled !== o.payment && !inFull && (
          <>
            <dt>By the money</dt>
            <dd className={o.settled === 'paid' ? '' : textCss.risk}>
              <b>{o.settled}</b>
            </dd>
          </>
        )}
        {m.balanceMinor !== 0 && !inFull && (
          <>
            <dt>{m.balanceMinor < 0 ? 'Due' : 'To refund'}</dt>
            <dd className={m.balanceMinor < 0 ? textCss.stop : textCss.risk}>
              <b>{show(Math.abs(m.balanceMinor))}</b>
            </dd>
          </>
        )}
      </dl>
    </section>
  );
}

/** When it was placed and promised, how it leaves, and the weight declared for it. */
export function WayPanel({ order: o, save, can }: PanelProps) {
  const declare = (text: string) => {
    const read = text === '' ? null : parseWeight(text);
    if (read && !read.ok) return read.problem;
    save({ weightOverrideMg: read === null ? null : read.value });
  };
  return (
    <section className={pageCss.panel}>
      <h2>Its way</h2>
      <dl className={pageCss.facts}>
        <dt>Placed</dt>
        <dd>{o.placedAt ? moment(o.placedAt) : 'not yet'}</dd>
        <dt>Promised</dt>
        <dd>
          {can ? (
            <DayField
              bare
              label="Promised"
              value={o.row.promised}
              onChange={promised => save({ promised })}
            />
          ) : (
            day(o.row.promised) || 'no day'
          )}
        </dd>
        {(can || o.serviceAsked) && (
          <>
            <dt>Asked for</dt>
            <dd>
              <Field
                label="Service asked for"
                placeholder="any service"
                value={o.serviceAsked}
                readOnly={!can}
                onSave={serviceAsked => void save({ serviceAsked })}
              />
            </dd>
          </>
        )}
        {o.row.stage !== 'Cancelled' && (
          <>
            <dt>{o.row.stage === 'Departed' ? 'Left with' : 'Leaves'}</dt>
            <dd>
              {o.row.leavesWith
                ? `${o.row.leavesWith.carrier}, ${moment(o.row.leavesWith.cutOff)}`
                : 'not planned'}
            </dd>
          </>
        )}
        {(can || o.weightOverrideMg) && (
          <>
            <dt>Weight</dt>
            <dd>
              <Field
                label="Declared weight of the order"
                placeholder="by its products"
                value={o.weightOverrideMg ? weight(o.weightOverrideMg) : ''}
                readOnly={!can}
                onSave={declare}
              />
            </dd>
          </>
        )}
        {o.lists.length > 0 && (
          <>
            <dt>Pick list</dt>
            <dd>
              {o.lists.map(l => (
                <Link key={l} to={`/pick/${l}`} className={textCss.code}>
                  {l}{' '}
                </Link>
              ))}
            </dd>
          </>
        )}
        {o.parcels.map(p => (
          <div key={p.no} style={{ display: 'contents' }}>
            <dt>
              <CodeLink to={`/parcels?look=${p.no}`}>{p.no}</CodeLink>
            </dt>
            <dd>
              {p.state === 'departed' ? <TrackMark track={p.track} trouble={p.trouble} /> : p.state}{' '}
              {p.carrier && `${p.carrier}, ${p.service}`} <span className={textCss.code}>{p.tracking}</span>{' '}
              {p.minor !== null && formatMoney(p.minor, p.currency)}{' '}
              {p.tracking && (
                <a href={`/api/v1/parcels/${p.no}/label.pdf`} target="_blank" rel="noreferrer">
                  label
                </a>
              )}
            </dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
