import { KnownBuyer, OrderView } from '@auk/contract';
import {
  ADDRESS_FIELDS,
  type Address,
  emptyAddress,
  formatMoney,
  formatWeight,
  PAYMENTS,
  parseAmount,
  parseWeight,
} from '@auk/core';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { get } from '../api.js';
import { Field } from '../parts/Field.js';
import { moment } from '../parts/format.js';
import type { useOrderEdit } from './useOrderEdit.js';

type Save = ReturnType<typeof useOrderEdit>['save'];
interface Props {
  order: OrderView;
  save: Save;
  can: boolean;
}

/** Where it goes and who pays, each field changed in place; one address is copied onto the other in one press. */
export function AddressPanel({ order: o, save, can }: Props) {
  const [billing, setBilling] = useState(false);
  return (
    <section className="panel">
      <h2>Ship to</h2>
      {o.draft && <BuyerFinder save={save} />}
      <AddressFields name="Ship to" address={o.shipTo} can={can} onSave={shipTo => save({ shipTo })} />
      <Field label="Mail" value={o.mail} readOnly={!can} wide onSave={mail => save({ mail })} />
      <Field
        label="Pick-up point"
        value={o.pickUpPoint}
        readOnly={!can}
        wide
        placeholder={can ? 'pick-up point' : ''}
        onSave={pickUpPoint => save({ pickUpPoint })}
      />
      {(o.billTo || billing) && (
        <>
          <h2>Bill to</h2>
          <AddressFields
            name="Bill to"
            address={o.billTo ?? emptyAddress('')}
            can={can}
            onSave={billTo => save({ billTo })}
          />
        </>
      )}
      {can && (
        <div className="row" style={{ gap: 4 }}>
          {!o.billTo && !billing && (
            <Button size="small" onClick={() => setBilling(true)}>
              Bill elsewhere
            </Button>
          )}
          {o.billTo && (
            <>
              <Button size="small" onClick={() => save({ billTo: null })}>
                Bill to the same
              </Button>
              <Button size="small" onClick={() => save({ shipTo: o.billTo! })}>
                Ship to this
              </Button>
            </>
          )}
        </div>
      )}
    </section>
  );
}

function AddressFields({
  name,
  address,
  can,
  onSave,
}: {
  name: string;
  address: Address;
  can: boolean;
  onSave: (a: Address) => void;
}) {
  const put = (field: keyof Address) => (value: string) => onSave({ ...address, [field]: value });
  const field = (f: keyof Address, wide = true) => (
    <Field
      key={f}
      label={`${name}: ${ADDRESS_FIELDS.find(([x]) => x === f)![1]}`}
      placeholder={can ? ADDRESS_FIELDS.find(([x]) => x === f)![1] : ''}
      value={address[f]}
      readOnly={!can}
      wide={wide}
      onSave={put(f)}
    />
  );
  return (
    <div className="address">
      {field('name')}
      {(can || address.company) && field('company')}
      {field('line1')}
      {(can || address.line2) && field('line2')}
      <div className="town">
        {field('city', false)}
        {field('region', false)}
        {field('postcode', false)}
        {field('country', false)}
      </div>
      {field('phone')}
    </div>
  );
}

/** Finds a buyer of earlier orders by name or mail, and takes the address over. */
function BuyerFinder({ save }: { save: Save }) {
  const [words, setWords] = useState('');
  const found = useQuery({
    queryKey: ['buyers', words],
    queryFn: () => get(KnownBuyer.array(), `orders/buyers?words=${encodeURIComponent(words)}`),
    enabled: words.trim().length > 1,
  });
  return (
    <div className="addline">
      <input
        aria-label="Find a buyer"
        placeholder="Bought before? Name or mail"
        value={words}
        onChange={e => setWords(e.target.value)}
      />
      {words.trim().length > 1 && found.data && found.data.length > 0 && (
        <ul className="suggest">
          {found.data.map(b => (
            <li key={b.mail + b.shipTo.name}>
              <button
                type="button"
                onClick={() => {
                  setWords('');
                  save({ mail: b.mail, shipTo: { ...emptyAddress('US'), ...b.shipTo } });
                }}
              >
                <span className="grow">
                  <b>{b.shipTo.name}</b> {b.shipTo.line1}, {b.shipTo.city}
                </span>
                <span className="quiet">{b.orders} orders</span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

/** What it costs, what was paid, and what is due or to refund. */
export function MoneyPanel({ order: o, save, can }: Props) {
  const { currency } = o.row;
  const m = o.money;
  const show = (minor: number) => formatMoney(minor, currency);
  const put = (field: 'shippingMinor' | 'discountMinor' | 'paidMinor') => (text: string) => {
    const read = parseAmount(text || '0', currency);
    if (read.ok && read.value >= 0) save({ [field]: read.value });
  };
  return (
    <section className="panel">
      <h2>Money</h2>
      <dl className="money">
        <dt>Goods</dt>
        <dd>{show(m.goodsMinor)}</dd>
        <dt>Discount</dt>
        <dd>
          <Field
            label="Discount"
            value={show(m.discountMinor)}
            readOnly={!can}
            onSave={put('discountMinor')}
          />
        </dd>
        <dt>Shipping</dt>
        <dd>
          <Field
            label="Shipping"
            value={show(m.shippingMinor)}
            readOnly={!can}
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
          <select
            aria-label="Payment"
            value={o.payment}
            disabled={!can}
            onChange={e => save({ payment: e.target.value as (typeof PAYMENTS)[number] })}
          >
            {PAYMENTS.map(p => (
              <option key={p}>{p}</option>
            ))}
          </select>
        </dt>
        <dd>
          <Field label="Paid" value={show(m.paidMinor)} readOnly={!can} onSave={put('paidMinor')} />
        </dd>
        {o.settled !== o.payment && (
          <>
            <dt>By the money</dt>
            <dd className={o.settled === 'paid' ? '' : 'risk'}>
              <b>{o.settled}</b>
            </dd>
          </>
        )}
        {m.balanceMinor !== 0 && (
          <>
            <dt>{m.balanceMinor < 0 ? 'Due' : 'To refund'}</dt>
            <dd className={m.balanceMinor < 0 ? 'stop' : 'risk'}>
              <b>{show(Math.abs(m.balanceMinor))}</b>
            </dd>
          </>
        )}
      </dl>
    </section>
  );
}

/** When it was placed and promised, how it leaves, and the weight declared for it. */
export function WayPanel({ order: o, save, can }: Props) {
  const weight = (text: string) => {
    if (text === '') return save({ weightOverrideMg: null });
    const read = parseWeight(text);
    if (read.ok) save({ weightOverrideMg: read.value });
  };
  return (
    <section className="panel">
      <h2>Its way</h2>
      <dl>
        <dt>Placed</dt>
        <dd>{o.placedAt ? moment(o.placedAt) : 'not yet'}</dd>
        <dt>Promised</dt>
        <dd>
          <Field
            label="Promised"
            type="date"
            value={o.row.promised ?? ''}
            readOnly={!can}
            onSave={v => save({ promised: v || null })}
          />
        </dd>
        <dt>Asked for</dt>
        <dd>
          <Field
            label="Service asked for"
            placeholder={can ? 'any service' : ''}
            value={o.serviceAsked}
            readOnly={!can}
            onSave={serviceAsked => save({ serviceAsked })}
          />
        </dd>
        <dt>Leaves</dt>
        <dd>
          {o.row.leavesWith
            ? `${o.row.leavesWith.carrier}, ${moment(o.row.leavesWith.cutOff)}`
            : 'not planned'}
        </dd>
        <dt>Weight</dt>
        <dd>
          <Field
            label="Declared weight of the order"
            placeholder={can ? 'by its products' : ''}
            value={o.weightOverrideMg ? formatWeight(o.weightOverrideMg, 'imperial') : ''}
            readOnly={!can}
            onSave={weight}
          />
        </dd>
        {o.lists.length > 0 && (
          <>
            <dt>Pick list</dt>
            <dd>
              {o.lists.map(l => (
                <Link key={l} to={`/pick/${l}`} className="code">
                  {l}{' '}
                </Link>
              ))}
            </dd>
          </>
        )}
        {o.parcels.map(p => (
          <div key={p.no} className="parcelrow">
            <dt className="code">{p.no}</dt>
            <dd>
              {p.state} {p.carrier && `${p.carrier}, ${p.service}`} <span className="code">{p.tracking}</span>{' '}
              {p.minor !== null && formatMoney(p.minor, o.row.currency)}{' '}
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
