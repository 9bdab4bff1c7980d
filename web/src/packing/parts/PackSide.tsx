import type { BenchView, OfferView } from '@auk/contract';
import {
  count,
  expectedMg,
  formatMoney,
  type PackState,
  packClosed,
  packDone,
  parcelAtHand,
} from '@auk/core';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import { lazy, Suspense } from 'react';
import { clock, day, weight } from '../../parts/format.js';
import textCss from '../../parts/text.module.css';
import { OfflineNote } from '../../scans/AnswerBar.js';
import css from '../../scans/bench.module.css';
import { Beside } from '../../scans/Lines.js';
import ownCss from '../packing.module.css';
import type { LabelDesk } from '../useLabelDesk.js';
import { Lacking } from './Lacking.js';

/** It comes with the first order: laying pieces out is the largest part of the bench's script. */
const BoxDrawing = lazy(() => import('./BoxDrawing.js'));

interface Props {
  state: PackState;
  view: BenchView;
  /** The parcel whose label is next. */
  parcelNo: string;
  desk: LabelDesk;
  waiting: number;
  /** The order is read anew. */
  refresh: () => void;
  /** Photos that this device keeps because they could not be sent. */
  photos: number;
  offline: boolean;
}

/** Beside the lines: box and weight while packing, services and label when closed. */
export function PackSide({ state, view, parcelNo, desk, waiting, offline, photos, refresh }: Props) {
  const closed = packClosed(state);
  const bought = desk.label?.state === 'bought';
  const labels = !state.choices.checkOnly && !view.inbound;
  return (
    <Beside>
      {state.parcels.length > 1 && <ParcelRow state={state} view={view} />}
      {!closed && view.lacks && <Lacking lacks={view.lacks} orderId={view.orderId} listed={refresh} />}
      {!closed && <AtHand state={state} />}
      {!closed && <BoughtAhead view={view} />}
      {closed && view.inbound && <Boxed inbound={view.inbound} />}
      {closed && labels && bought && <Bought desk={desk} />}
      {closed && labels && !bought && <Offers desk={desk} parcelNo={parcelNo} />}
      {photos > 0 && <OfflineNote words={`${count(photos, 'photo')} kept here, to be sent.`} />}
      {offline && <OfflineNote words={`No network. ${count(waiting, 'scan')} kept, to be sent.`} />}
    </Beside>
  );
}

/** The parcels of the order: which is at hand, what is in each, which have their label. */
function ParcelRow({ state, view }: Pick<Props, 'state' | 'view'>) {
  const hand = parcelAtHand(state);
  return (
    <ul className={ownCss.parcels} aria-label="Parcels">
      {state.parcels.map(p => {
        const units = Object.values(p.holds).reduce((n, u) => n + u, 0);
        const label = view.parcels.find(v => v.seq === p.no)?.label?.state === 'bought';
        return (
          <li key={p.no} aria-current={p === hand && !p.closed ? 'true' : undefined}>
            {p.no}: {count(units, 'piece')}
            {label ? ', ✓ labelled' : p.closed ? ', closed' : ''}
          </li>
        );
      })}
    </ul>
  );
}

/** The parcel at hand: how it is packed, and what it weighs. */
function AtHand({ state }: { state: PackState }) {
  const { no, boxCode, weightMg } = parcelAtHand(state);
  const box = state.boxes.find(b => b.code === boxCode);
  const expected = packDone(state) ? expectedMg(state) : null;
  return (
    <>
      <h2>
        {state.parcels.length > 1 && `Parcel ${no}, `}
        {box ? `Box ${box.name}` : 'No box yet'}
      </h2>
      <Suspense>
        <BoxDrawing state={state} />
      </Suspense>
      <dl>
        <dt>Weight</dt>
        <dd>
          {weightMg ? weight(weightMg) : 'not yet'}
          {expected !== null && <small> expected {weight(expected)}</small>}
        </dd>
        <dt>Boxes</dt>
        <dd className={textCss.code}>{state.boxes.map(b => b.code).join(' ')}</dd>
      </dl>
    </>
  );
}

/** The label of the parcel at hand, where a rule bought it before anybody packed. */
function BoughtAhead({ view }: Pick<Props, 'view'>) {
  const ahead = view.parcels.find(p => !p.closed && p.label?.state === 'bought');
  if (!ahead) return null;
  return (
    <p data-part="bought-ahead">
      ✓ Its label is bought: {ahead.label!.service}, {ahead.label!.carrierName}. Another box or weight needs
      another one.
    </p>
  );
}

/** All boxes of a shipment are packed. */
function Boxed({ inbound }: { inbound: NonNullable<BenchView['inbound']> }) {
  return (
    <>
      <h2>✓ Boxes of {inbound.name}</h2>
      <p>
        {inbound.no} to {inbound.center}. Their labels come when it is booked.
      </p>
    </>
  );
}

function Offers({ desk, parcelNo }: { desk: LabelDesk; parcelNo: string }) {
  const { offers } = desk;
  if (!offers)
    return desk.busy ? (
      <h2>Asking the carriers …</h2>
    ) : (
      <>
        <h2>No prices</h2>
        <Button variant="outlined" onClick={desk.askAgain}>
          Alt 1: ask the carriers again
        </Button>
      </>
    );
  return (
    <>
      <h2>Services for {parcelNo}</h2>
      <p className={textCss.quiet} style={{ marginBottom: 10 }}>
        promised {offers.promised ? day(offers.promised) : 'no day'}, paid{' '}
        {formatMoney(offers.paidMinor, offers.currency)} for shipping
      </p>
      {offers.offers.map((o, i) => (
        <Offer
          key={`${o.carrier} ${o.account.number} ${o.quoteId}`}
          offer={o}
          index={i}
          paid={offers.paidHouseMinor}
          house={offers.houseCurrency}
          buy={() => desk.buy(i)}
          busy={desk.busy}
        />
      ))}
      {offers.silent.map(s => (
        <p key={s.carrierName} className={textCss.stop}>
          {s.carrierName}: {s.why}
        </p>
      ))}
      {desk.more > 0 && (
        <p className={textCss.quiet}>{count(desk.more, 'more service')} at the desk, under Parcels.</p>
      )}
      {offers.offers.length === 0 && <p>No service takes this parcel. Ask the lead.</p>}
    </>
  );
}

function Offer({
  offer: o,
  index,
  paid,
  house,
  buy,
  busy,
}: {
  offer: OfferView;
  index: number;
  paid: number | null;
  house: string;
  buy: () => void;
  busy: boolean;
}) {
  const gap = paid === null || o.houseMinor === null ? null : paid - o.houseMinor;
  // What the price is made of stands with the first; with all of them the bench would have to scroll.
  const extras =
    index === 0 ? o.charges.slice(1).map(c => `${c.name} ${formatMoney(c.minor, o.currency)}`) : [];
  return (
    <ButtonBase
      data-part="offer"
      className={index === 0 ? `${css.offer} ${css.first}` : css.offer}
      onClick={buy}
      disabled={busy}
    >
      <kbd>Alt {index + 1}</kbd>
      <span>
        <b>{o.name}</b>
        {o.chosen && <small> ★ chosen for the order</small>}
        {!o.chosen && o.preferred && <small> ★ its products prefer it</small>}
        <br />
        <small>
          {o.keeps ? '✓' : '✕ too late,'} {day(o.arrives)}
          {o.account.number !== '' && `, ${o.account.name}`}
          {index === 0 && o.departure ? `, leaves ${clock(o.departure.cutOff)}` : ''}
          {index === 0 && o.billable.why !== 'weight' && `, as ${o.billable.says} by volume`}
          {extras.length > 0 && `, with ${extras.join(', ')}`}
        </small>
      </span>
      <span style={{ textAlign: 'right' }}>
        <b className={css.price} data-part="price">
          {formatMoney(o.minor, o.currency)}
        </b>
        <br />
        <small>
          {gap === null
            ? 'no rate is known'
            : gap >= 0
              ? `${formatMoney(gap, house)} left`
              : `${formatMoney(-gap, house)} over`}
        </small>
      </span>
    </ButtonBase>
  );
}

function Bought({ desk }: { desk: LabelDesk }) {
  const label = desk.label!;
  return (
    <>
      <h2>{desk.misfit ? '▲ The label does not fit' : 'Label is bought'}</h2>
      <dl>
        <dt>Service</dt>
        <dd>
          {label.service}, {label.carrierName}
        </dd>
        <dt>Tracking</dt>
        <dd className={textCss.code}>{label.tracking}</dd>
        <dt>Price</dt>
        <dd>{formatMoney(label.minor, label.currency)}</dd>
        <dt>Arrives</dt>
        <dd>{day(label.arrives)}</dd>
      </dl>
      {label.pdf && (
        <>
          <iframe title="Label" src={`${label.pdf}#toolbar=0&view=Fit`} className={css.label} />
          <p>
            <a href={label.pdf} target="_blank" rel="noreferrer">
              Open the label to print it
            </a>
          </p>
        </>
      )}
    </>
  );
}
