import { can, type InboundPartView, type InboundPrice, type InboundView } from '@auk/contract';
import { count, formatMoney } from '@auk/core';
import Button from '@mui/material/Button';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { v7 } from 'uuid';
import { Ask } from '../../parts/ask.js';
import { day, moment, weight } from '../../parts/format.js';
import { ProblemNote } from '../../parts/problem.js';
import { StageMark } from '../../parts/stage.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { useMe } from '../../people/useMe.js';
import { makeList } from '../../picking/api.js';
import { askPrice, bookPart, callOffPart, cancelPart, partLeaves } from '../api.js';
import css from '../inbound.module.css';
import { InboundMark } from '../stageMark.js';
import { useAct } from '../useAct.js';
import { Differences } from './Differences.js';

type PackedBox = InboundPartView['boxes'][number];

/** What goes to one center: picked, packed, booked, gone, counted. */
export function PartPanel({ view, part }: { view: InboundView; part: InboundPartView }) {
  return (
    <section className={css.part} aria-label={`To ${part.center}`}>
      <h3>
        {part.center} <InboundMark stage={part.stage} />
      </h3>
      <p className={textCss.quiet}>
        {count(
          part.lines.reduce((n, l) => n + l.units, 0),
          'unit',
        )}
        , {count(part.boxes.length || part.planned.length, 'box', 'boxes')}
        {part.late && <b className={textCss.risk}> ▲ late: expected {day(part.late)}</b>}
        {part.order && (
          <>
            {' · '}
            <Link to={`/orders/${part.order.id}`}>{part.order.no}</Link>{' '}
            <StageMark stage={part.order.stage as never} />
          </>
        )}
      </p>
      <Booking part={part} house={view.currency} />
      <Papers part={part} />
      <Acts view={view} part={part} />
      {part.boxes.length > 0 && (
        <DataTable
          name="inbound-boxes"
          label={`Boxes for ${part.center}`}
          arrangeable={false}
          rows={part.boxes}
          idOf={b => b.parcel}
          columns={BOXES}
        />
      )}
      {part.loaded.length > 0 && (
        <ol className={css.loaded} aria-label={`Pallets for ${part.center}`}>
          {part.loaded.map(p => (
            <li key={p.sscc}>
              <b>Pallet {p.no}</b> <span className={textCss.code}>{p.sscc}</span> ·{' '}
              {count(p.parcels.length, 'box', 'boxes')}, {weight(p.weightMg)}:{' '}
              <span className={textCss.code}>{p.parcels.join(' ')}</span>
            </li>
          ))}
        </ol>
      )}
      {part.differences.length > 0 && <Differences view={view} part={part} />}
    </section>
  );
}

function Booking({ part, house }: { part: InboundPartView; house: string }) {
  const b = part.booking;
  if (b.state === 'none' && !b.why) return null;
  const words = {
    none: 'Not booked.',
    asked: 'Being booked …',
    unknown: '▲ Whether it is booked is not known yet; it is asked until it is.',
    refused: '✕ Refused.',
    cancelled: 'Its booking was called off.',
    booked: `✓ Booked as ${b.no} for ${formatMoney(b.minor ?? 0, b.currency ?? house)}${part.stage === 'Booked' && b.freeUntil ? `; free to call off until ${moment(b.freeUntil)}` : ''}.`,
  }[b.state];
  return (
    <p className={b.state === 'booked' ? textCss.good : textCss.risk} role="status">
      {words} {b.why}
    </p>
  );
}

/** Papers of the boxes, and what is told of them, once they are numbered. */
function Papers({ part }: { part: InboundPartView }) {
  if (part.boxes.length === 0 || part.boxes.some(b => b.sscc === null)) return null;
  const at = `/api/v1/inbound/parts/${part.id}`;
  const papers = [
    ['labels.pdf', 'Box labels'],
    ...(part.loaded.length > 0 ? [['pallets.pdf', 'Pallet labels'] as [string, string]] : []),
    ['packing-list.pdf', 'Packing list'],
    ['delivery-note.pdf', 'Delivery note'],
    ['advice/xml', 'Despatch advice as UBL'],
    ['advice/edi', 'EDIFACT'],
    ['advice/csv', 'CSV'],
    ['advice/json', 'JSON'],
  ] satisfies [path: string, words: string][];
  return (
    <p className={css.papers}>
      {papers.map(([path, words]) => (
        <a key={path} href={`${at}/${path}`} target="_blank" rel="noreferrer">
          {words}
        </a>
      ))}
    </p>
  );
}

function Acts({ view, part }: { view: InboundView; part: InboundPartView }) {
  const me = useMe();
  const navigate = useNavigate();
  const [price, setPrice] = useState<InboundPrice | null>(null);
  const [giving, setGiving] = useState(false);
  // Pressed again where an answer was lost, it is the same act.
  const [key] = useState(() => v7());
  const ask = useAct(() => askPrice(part.id), setPrice);
  const list = useAct(
    () => makeList([part.order!.id]),
    ({ no }) => void navigate(`/pick/${no}`),
  );
  const off = useAct(() => callOffPart(part.id));
  const leave = useAct(() => partLeaves(part.id));
  const cancel = useAct(
    () => cancelPart(part.id, key),
    () => setGiving(false),
  );
  const boxed = part.stage === 'Boxed' && part.booking.state !== 'booked';
  const live = part.stage !== 'Cancelled' && part.stage !== 'Closed';
  const booked = part.stage === 'Booked';
  return (
    <div className={css.acts}>
      {part.order?.stage === 'Clear' && can(me, 'lists.release') && (
        <Button variant="contained" disabled={list.isPending} onClick={() => list.mutate()}>
          Put it on a pick list
        </Button>
      )}
      {boxed &&
        can(me, 'inbound.book') &&
        part.booking.state !== 'unknown' &&
        part.booking.state !== 'asked' && (
          <Button variant="contained" disabled={ask.isPending} onClick={() => ask.mutate()}>
            Ask for the price
          </Button>
        )}
      {booked && view.way?.rates === 'theirs' && can(me, 'handover') && (
        <Button variant="contained" disabled={leave.isPending} onClick={() => leave.mutate()}>
          It was fetched
        </Button>
      )}
      {booked && view.way?.rates === 'ours' && (
        <span>
          Its labels are bought under <Link to="/parcels">Parcels</Link>; it leaves with its departure.
        </span>
      )}
      {booked && can(me, 'inbound.book') && (
        <Button variant="outlined" color="secondary" disabled={off.isPending} onClick={() => off.mutate()}>
          Call the booking off
        </Button>
      )}
      {live &&
        part.order &&
        !booked &&
        part.booking.state !== 'booked' &&
        can(me, 'inbound.change') &&
        view.parts.length > 1 && (
          <Button variant="outlined" color="secondary" onClick={() => setGiving(true)}>
            Give {part.center} up
          </Button>
        )}
      <ProblemNote error={ask.error ?? list.error ?? off.error ?? leave.error} />
      {price && <Confirm part={part} price={price} leave={() => setPrice(null)} />}
      {giving && (
        <Ask
          title={`Send nothing to ${part.center}?`}
          act="Give it up"
          danger
          busy={cancel.isPending}
          error={cancel.error}
          onAct={() => cancel.mutate()}
          onLeave={() => setGiving(false)}
        >
          What was picked or packed for it is laid on the staging place, to be put back. The other centers
          stay.
        </Ask>
      )}
    </div>
  );
}

/** The price is confirmed before it is charged; one key for one press. */
function Confirm({ part, price, leave }: { part: InboundPartView; price: InboundPrice; leave: () => void }) {
  const [key] = useState(() => v7());
  const book = useAct(() => bookPart(part.id, key, price.minor), leave);
  const amount = formatMoney(price.minor, price.currency);
  return (
    <Ask
      title={`Book ${part.center} for ${amount}?`}
      act={`Book for ${amount}`}
      busy={book.isPending}
      error={book.error}
      onAct={() => book.mutate()}
      onLeave={leave}
    >
      {count(price.boxes, 'box', 'boxes')}, {count(price.units, 'unit')}. No more than this is charged.
    </Ask>
  );
}

const BOXES: Column<PackedBox>[] = [
  {
    id: 'box',
    head: 'Box',
    width: 28,
    cell: b => (
      <>
        <b>{b.parcel}</b> {b.box}
        <div className={`${textCss.code} ${css.sscc}`}>{b.sscc}</div>
      </>
    ),
  },
  { id: 'weight', head: 'Weight', right: true, width: 14, cell: b => (b.weightMg ? weight(b.weightMg) : '') },
  {
    id: 'contents',
    head: 'What is in it',
    width: 30,
    cell: b =>
      b.contents
        .map(
          c =>
            `${c.units} × ${c.sku}${c.lot ? `, lot ${c.lot}` : ''}${c.counted === null ? '' : `, ${c.counted} counted`}`,
        )
        .join(' · '),
  },
  {
    id: 'tracking',
    head: 'Tracking',
    width: 16,
    cell: b => <span className={textCss.code}>{b.tracking}</span>,
  },
  {
    id: 'events',
    head: 'Last heard',
    width: 18,
    cell: b => {
      const last = b.events.at(-1);
      return last ? `${moment(last.at)}: ${last.says}` : '';
    },
  },
];
