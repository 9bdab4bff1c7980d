import type { ComparedService, CompareView } from '@auk/contract';
import { count, formatMoney } from '@auk/core';
import { OpenBox } from '../../parts/box/OpenBox.js';
import { weight } from '../../parts/format.js';
import pageCss from '../../parts/page.module.css';
import textCss from '../../parts/text.module.css';
import css from '../rating.module.css';

/** What the chosen row is made of: how it is packed, every part of its price, and what boxes and services together would save. */
export function WhatFor({ view, row }: { view: CompareView; row: ComparedService }) {
  const shown = row.parcels.map(p => ({ ...p, is: view.parcels[p.parcel]! }));
  const largest = shown.reduce(
    (a, b) => (b.is.size.length + b.is.size.width > a.size.length + a.size.width ? b.is : a),
    shown[0]!.is,
  );
  return (
    <aside className={pageCss.side} aria-label="What it is made of">
      {view.together && <Together view={view} />}
      <div className={css.boxes}>
        {shown.map(({ is }, i) => (
          <figure key={i} className={css.boxOf}>
            <OpenBox
              inner={is.size}
              placed={is.placed}
              label={`${is.box ?? 'The parcel'} with ${is.contents.map(c => `${c.quantity} ${c.name}`).join(', ')}`}
              height={shown.length > 1 ? 7 : 9}
              beside={largest.size}
            />
            <figcaption className={textCss.quiet}>
              {is.box && <b className={textCss.code}>{is.box} </b>}
              {weight(is.weightMg)}
              {is.contents.length > 0 &&
                `, ${count(
                  is.contents.reduce((n, c) => n + c.quantity, 0),
                  'piece',
                )}`}
            </figcaption>
          </figure>
        ))}
      </div>
      {view.guessed.length > 0 && (
        <p className={textCss.risk}>
          ! Size or weight is a guess for {view.guessed.join(', ')}. Measure it, and prices are right.
        </p>
      )}
      <h2 className={textCss.quiet}>{row.name}: what it is made of</h2>
      <dl className={css.sum}>
        {shown.flatMap(({ quote, is }, i) => [
          ...quote.charges.map((c, j) => (
            <Part key={`${i} ${j}`} name={c.name} money={formatMoney(c.minor, quote.currency)} />
          )),
          is.boxMinor > 0 && (
            <Part key={`${i} box`} name={`box ${is.box}`} money={formatMoney(is.boxMinor, view.currency)} />
          ),
        ])}
        {row.currency !== view.currency && row.houseMinor !== null && (
          <Part
            name={`${formatMoney(row.labelMinor, row.currency)} by today’s rate`}
            money={formatMoney(row.houseMinor, view.currency)}
          />
        )}
        <Part name="together" money={formatMoney(row.minor, view.currency)} strong />
      </dl>
      <Why row={row} />
    </aside>
  );
}

function Part({ name, money, strong }: { name: string; money: string; strong?: boolean }) {
  return (
    <>
      <dt className={strong ? css.strong : undefined}>{name}</dt>
      <dd className={strong ? css.strong : undefined}>{money}</dd>
    </>
  );
}

/** Why the weight that is paid for is not the one on the scale. */
function Why({ row }: { row: ComparedService }) {
  const by = row.parcels.map(p => p.quote.billable.why);
  if (by.includes('volume'))
    return <p className={textCss.quiet}>It is paid by its size: it is large for what it weighs.</p>;
  if (by.includes('cubic'))
    return <p className={textCss.quiet}>It is paid by its size, which is less than by its weight.</p>;
  return null;
}

function Together({ view }: { view: CompareView }) {
  const { together } = view;
  if (!together) return null;
  const boxes = together.parcels.map(p => view.parcels[p.parcel]!.box).join(' and ');
  const ways = [...new Set(together.parcels.map(p => p.name))].join(' and ');
  return (
    <p className={css.saves}>
      <b>
        {boxes} with {ways} saves {formatMoney(together.savesMinor, view.currency)}
      </b>{' '}
      against what is taken when nobody chooses
      {together.proven ? ', and nothing is cheaper' : ''}.
    </p>
  );
}
