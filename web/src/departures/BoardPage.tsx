import { Board, BoardDeparture, NeedsPerson, StageBar } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { DateTime } from 'luxon';
import { Link } from 'react-router';
import { get, send } from '../api.js';
import { clock, span } from '../parts/format.js';
import { ProblemNote } from '../parts/problem.js';
import { useMinute } from '../shell/Shell.js';
import './board.css';
import { PaceChart } from './PaceChart.js';

const SEGMENTS: [key: keyof StageBar, letter: string, word: string][] = [
  ['clear', 'C', 'Clear'],
  ['listed', 'L', 'Listed'],
  ['picked', 'Pi', 'Picked'],
  ['packed', 'Pa', 'Packed'],
  ['labelled', '✓', 'Labelled'],
];

/** Causes that fit beside five departures; the rest are one press away. */
const NEEDS_SHOWN = 6;

/** The Board: what leaves by when, what stands in its way, and what needs a person. */
export default function BoardPage() {
  const board = useQuery({
    queryKey: ['board'],
    queryFn: () => get(Board, 'departures/board'),
    refetchInterval: 30_000,
  });
  if (!board.data) return <ProblemNote error={board.error} />;
  const { departures, needs, toLeave, gone, perHour } = board.data;
  const waiting = needs.reduce((n, x) => n + x.orders, 0);
  const today = DateTime.fromISO(departures[0]?.cutOff ?? board.data.now, { zone: board.data.zone }).hasSame(
    DateTime.now().setZone(board.data.zone),
    'day',
  );
  return (
    <div className="board">
      <section aria-labelledby="departures">
        <h1 id="departures">{today ? 'Departures today' : 'Departures tomorrow'}</h1>
        <p className="quiet" style={{ marginBottom: 12 }}>
          {count(toLeave, 'order')} still to leave, {gone} gone.{' '}
          {perHour > 0
            ? `${count(perHour, 'parcel')} an hour at the pace of the last hour and a half.`
            : 'No label was bought in the last hour and a half, so the pace is not known.'}
        </p>
        {departures.map(d => (
          <DepartureRow key={d.id} departure={d} zone={board.data.zone} />
        ))}
        <div className="key">
          {SEGMENTS.map(([key, letter, word]) => (
            <span key={key}>
              <i className={key} />
              {letter} {word}
            </span>
          ))}
        </div>
      </section>
      <section aria-labelledby="needs">
        <h1 id="needs">Needs a person</h1>
        <p className="quiet" style={{ marginBottom: 12 }}>
          {waiting === 0
            ? 'Nothing waits for you.'
            : `${count(waiting, 'order')} ${waiting === 1 ? 'waits' : 'wait'} for something only you can do`}
        </p>
        {needs.slice(0, NEEDS_SHOWN).map(n => (
          <Need key={n.code + n.subject} need={n} />
        ))}
        {needs.length > NEEDS_SHOWN && (
          <p className="quiet" style={{ padding: '8px 0 0 42px' }}>
            <Link to="/orders?stage=Stopped,Short,Parked">
              and {count(needs.length - NEEDS_SHOWN, 'more cause')}
            </Link>
          </p>
        )}
        <h2 style={{ marginTop: 16 }}>Labelled today against the cut-offs</h2>
        <PaceChart points={board.data.labelledByHour} zone={board.data.zone} />
      </section>
    </div>
  );
}

function DepartureRow({ departure: d, zone }: { departure: BoardDeparture; zone: string }) {
  const left = DateTime.fromISO(d.cutOff).diff(useMinute(), 'minutes').minutes;
  const working = d.bar.clear + d.bar.listed + d.bar.picked + d.bar.packed;
  return (
    <Link className={d.state === 'open' ? 'departure' : 'departure closed'} to={`/departures/${d.no}`}>
      <span className="cutoff">{clock(d.cutOff, zone)}</span>
      <span className="carrier">
        <b>{d.carrierName}</b>
        <small>{d.name}</small>
      </span>
      <span>
        {d.state === 'open' && <Bar bar={d.bar} />}
        <span className="says">{sayOf(d, working, left, zone)}</span>
      </span>
      <span className="total">{d.state === 'open' ? d.total : ''}</span>
      <Sign departure={d} left={left} />
    </Link>
  );
}

function sayOf(d: BoardDeparture, working: number, left: number, zone: string): string {
  if (d.state === 'cancelled') return 'Called off: it does not come.';
  if (d.freight) return 'Pallets are counted by hand for now.';
  if (d.state === 'closed') return `Left with ${count(d.handedOver, 'parcel')}.`;
  if (d.total === 0) return 'Nothing planned for it yet.';
  if (working === 0)
    return left > 0 ? `All labelled, ${d.handedOver} handed over.` : `${d.total} labelled and still here.`;
  if (left <= 0) return `${count(working, 'order')} did not make it.`;
  if (!d.readyAt || d.spare === null) return `${working} not labelled yet.`;
  return d.spare >= 0
    ? `At this pace ready ${clock(d.readyAt, zone)}, ${span(d.spare)} to spare`
    : `At this pace ready ${clock(d.readyAt, zone)}, ${span(d.spare)} late`;
}

function Bar({ bar }: { bar: StageBar }) {
  const total = SEGMENTS.reduce((n, [key]) => n + bar[key], 0);
  if (total === 0) return <span className="bar none" />;
  return (
    <span
      className="bar"
      role="img"
      aria-label={SEGMENTS.map(([key, , word]) => `${bar[key]} ${word}`).join(', ')}
    >
      {SEGMENTS.filter(([key]) => bar[key] > 0).map(([key, letter]) => (
        <span key={key} className={key} style={{ flex: `${bar[key]} 1 34px` }}>
          <em>
            {letter} <b>{bar[key]}</b>
          </em>
        </span>
      ))}
    </span>
  );
}

function Sign({ departure: d, left }: { departure: BoardDeparture; left: number }) {
  if (d.state !== 'open') return <span className="sign quiet">{d.state}</span>;
  const late = d.word === 'will miss';
  const [mark, words, tone] = d.freight
    ? ['', 'shown only', '']
    : late
      ? ['✕', `${d.miss} will miss`, 'stop']
      : d.word === 'tight'
        ? ['!', 'tight', 'risk']
        : ['✓', 'on time', 'good'];
  return (
    <span className="sign">
      <b className={tone}>
        {mark} {words}
      </b>
      <small>{left > 0 ? span(left) : `${span(left)} ago`}</small>
    </span>
  );
}

/** Where the cure of each cause is one press away. */
function Need({ need: n }: { need: NeedsPerson }) {
  const to =
    n.code === 'short'
      ? `/products/${encodeURIComponent(n.subject)}`
      : n.code === 'label' || n.code === 'held'
        ? '/parcels'
        : n.code === 'parked'
          ? '/orders?stage=Parked'
          : `/orders?stage=Stopped&reason=${n.code}`;
  const act =
    n.code === 'unlinked-listing'
      ? 'Link'
      : n.code === 'bad-postcode' || n.code === 'bad-country' || n.code === 'long-address'
        ? 'Correct'
        : n.code === 'parked'
          ? 'Read'
          : n.code === 'label'
            ? 'Watch'
            : 'Look';
  const client = useQueryClient();
  const retry = useMutation({
    mutationFn: () => send(`jobs/${n.job}/retry`),
    onSuccess: () => client.invalidateQueries({ queryKey: ['board'] }),
  });
  return (
    <div className="need">
      <b>{n.orders}</b>
      <div className="grow">
        <p className="two">{n.says}</p>
        <p className="quiet cut">{n.detail}</p>
      </div>
      {n.job ? (
        <Button variant="outlined" size="small" disabled={retry.isPending} onClick={() => retry.mutate()}>
          Try again
        </Button>
      ) : (
        <Button component={Link} to={to} variant="outlined" size="small">
          {act}
        </Button>
      )}
    </div>
  );
}
