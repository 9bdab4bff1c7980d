import { BoardDeparture, StageBar } from '@auk/contract';
import { count } from '@auk/core';
import { Link } from 'react-router';
import { clock, minutesUntil, span } from '../../parts/format.js';
import textCss from '../../parts/text.module.css';
import { useMinute } from '../../parts/useMinute.js';
import css from '../board.module.css';

export const SEGMENTS: [key: keyof StageBar, letter: string, word: string][] = [
  ['clear', 'C', 'Clear'],
  ['listed', 'L', 'Listed'],
  ['picked', 'Pi', 'Picked'],
  ['packed', 'Pa', 'Packed'],
  ['labelled', '✓', 'Labelled'],
];

interface Props {
  departure: BoardDeparture;
  zone: string;
  /** People who are picking now. */
  picking: number;
}

export function DepartureRow({ departure: d, zone, picking }: Props) {
  const left = minutesUntil(d.cutOff, useMinute());
  const working = d.bar.clear + d.bar.listed + d.bar.picked + d.bar.packed;
  return (
    <Link
      className={d.state === 'open' ? css.departure : `${css.departure} ${css.closed}`}
      to={`/departures/${d.no}`}
    >
      <span className={css.cutoff}>{clock(d.cutOff, zone)}</span>
      <span className={css.carrier}>
        <b>{d.carrierName}</b>
        <small>{d.name}</small>
      </span>
      <span>
        {d.state === 'open' && <Bar bar={d.bar} />}
        <span className={css.says}>
          {sayOf(d, working, left, zone)}
          {left > 0 && <Pickers needed={d.pickers ?? 0} picking={picking} soon={left < SOON_MINUTES} />}
        </span>
      </span>
      <span className={css.total}>{d.state === 'open' ? d.total : ''}</span>
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
  if (left <= 0) return 'The cut-off is over. Close it: what has no label goes with the next.';
  if (!d.readyAt || d.spare === null) return `${working} not labelled yet.`;
  return d.spare >= 0
    ? `At this pace ready ${clock(d.readyAt, zone)}, ${span(d.spare)} to spare.`
    : `At this pace ready ${clock(d.readyAt, zone)}, ${span(d.spare)} late.`;
}

/** Departures that leave within so many minutes want a picker even when one is enough. */
const SOON_MINUTES = 120;

/** Whether those who pick are enough to have a departure picked in time. */
function Pickers({ needed, picking, soon }: { needed: number; picking: number; soon: boolean }) {
  if (needed <= picking || (needed === 1 && !soon)) return null;
  const more = needed - picking;
  return (
    <span className={textCss.risk} data-part="pickers">
      {' '}
      ! {count(more, 'more picker')} to have it picked in time.
    </span>
  );
}

function Bar({ bar }: { bar: StageBar }) {
  const total = SEGMENTS.reduce((n, [key]) => n + bar[key], 0);
  if (total === 0) return <span className={`${css.bar} ${css.none}`} />;
  return (
    <span
      className={css.bar}
      data-part="bar"
      role="img"
      aria-label={SEGMENTS.map(([key, , word]) => `${bar[key]} ${word}`).join(', ')}
    >
      {SEGMENTS.filter(([key]) => bar[key] > 0).map(([key, letter]) => (
        <span key={key} className={css[key]} style={{ flex: `${bar[key]} 1 34px` }}>
          <em>
            {letter} <b>{bar[key]}</b>
          </em>
        </span>
      ))}
    </span>
  );
}

function Sign({ departure: d, left }: { departure: BoardDeparture; left: number }) {
  if (d.state !== 'open') return <span className={`${css.sign} ${textCss.quiet}`}>{d.state}</span>;
  const late = d.word === 'will miss';
  const [mark, words, tone] = d.freight
    ? ['', 'shown only', undefined]
    : late
      ? ['✕', left > 0 ? `${d.miss} will miss` : `${d.miss} missed`, textCss.stop]
      : d.word === 'tight'
        ? ['!', 'tight', textCss.risk]
        : ['✓', 'on time', textCss.good];
  return (
    <span className={css.sign}>
      <b className={tone}>
        {mark} {words}
      </b>
      <small>{left > 0 ? span(left) : `${span(left)} ago`}</small>
    </span>
  );
}
