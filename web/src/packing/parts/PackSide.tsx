import type { BenchView, OfferView } from '@auk/contract';
import { count, formatMoney, type PackState } from '@auk/core';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import { clock, day, weight } from '../../parts/format.js';
import textCss from '../../parts/text.module.css';
import { OfflineNote } from '../../scans/AnswerBar.js';
import css from '../../scans/bench.module.css';
import type { LabelDesk } from '../useLabelDesk.js';

interface Props {
  state: PackState;
  view: BenchView;
  desk: LabelDesk;
  waiting: number;
  offline: boolean;
}

/** Beside the lines: box and weight while packing, services and label when closed. */
export function PackSide({ state, view, desk, waiting, offline }: Props) {
  const box = state.boxes.find(b => b.code === state.boxCode);
  return (
    <aside className={css.side}>
      {!state.closed && (
        <>
          <h2>{box ? `Box ${box.name}` : 'No box yet'}</h2>
          <p className={textCss.quiet}>
            {box
              ? 'Proposed by size and weight. Scan another box to change it.'
              : 'No box here takes all pieces. Scan the one you use.'}
          </p>
          <dl>
            <dt>Weight</dt>
            <dd>
              {state.weightMg ? weight(state.weightMg) : 'not yet'}
              {view.expectedMg > 0 && <small> expected {weight(view.expectedMg)}</small>}
            </dd>
            <dt>Boxes</dt>
            <dd className={textCss.code}>{state.boxes.map(b => b.code).join(' ')}</dd>
          </dl>
        </>
      )}
      {state.closed && desk.label?.state === 'bought' && <Bought desk={desk} />}
      {state.closed && desk.label?.state !== 'bought' && <Offers desk={desk} view={view} />}
      {offline && <OfflineNote words={`No network. ${count(waiting, 'scan')} kept, to be sent.`} />}
    </aside>
  );
}

function Offers({ desk, view }: { desk: LabelDesk; view: BenchView }) {
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
      <h2>Services for {view.parcelNo}</h2>
      <p className={textCss.quiet} style={{ marginBottom: 10 }}>
        promised {offers.promised ? day(offers.promised) : 'no day'}, paid{' '}
        {formatMoney(offers.paidMinor, offers.currency)} for shipping
      </p>
      {offers.offers.map((o, i) => (
        <Offer
          key={o.carrier + o.quoteId}
          offer={o}
          index={i}
          paid={offers.paidMinor}
          buy={() => desk.buy(i)}
          busy={desk.busy}
        />
      ))}
      {offers.silent.map(s => (
        <p key={s.carrierName} className={textCss.stop}>
          {s.carrierName}: {s.why}
        </p>
      ))}
      {offers.offers.length === 0 && <p>No service takes this parcel. Ask the lead.</p>}
    </>
  );
}

function Offer({
  offer: o,
  index,
  paid,
  buy,
  busy,
}: {
  offer: OfferView;
  index: number;
  paid: number;
  buy: () => void;
  busy: boolean;
}) {
  const gap = paid - o.minor;
  const extras = o.charges.slice(1).map(c => `${c.name} ${formatMoney(c.minor, o.currency)}`);
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
        <br />
        <small>
          {o.keeps ? '✓' : '✕ too late,'} {day(o.arrives)}
          {o.departure ? `, leaves ${clock(o.departure.cutOff)}` : ''}
          {o.byVolume && ', by volume'}
          {extras.length > 0 && `, with ${extras.join(', ')}`}
        </small>
      </span>
      <span style={{ textAlign: 'right' }}>
        <b className={css.price} data-part="price">
          {formatMoney(o.minor, o.currency)}
        </b>
        <br />
        <small>
          {gap >= 0 ? `${formatMoney(gap, o.currency)} left` : `${formatMoney(-gap, o.currency)} over`}
        </small>
      </span>
    </ButtonBase>
  );
}

function Bought({ desk }: { desk: LabelDesk }) {
  const label = desk.label!;
  return (
    <>
      <h2>Label is bought</h2>
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
