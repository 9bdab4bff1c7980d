import { count } from '@auk/core';
import { useQuery } from '@tanstack/react-query';
import { DateTime } from 'luxon';
import { Link } from 'react-router';
import { useTitle } from '../../parts/useTitle.js';
import { Waiting } from '../../parts/Waiting.js';
import { boardQuery } from '../api.js';
import css from '../board.module.css';
import { DepartureRow, SEGMENTS } from '../parts/DepartureRow.js';
import { Need } from '../parts/Need.js';
import { PaceChart } from '../parts/PaceChart.js';

/** Causes that fit beside five departures; the rest are one press away. */
const NEEDS_SHOWN = 6;

/** The Board: what leaves by when, what stands in its way, and what needs a person. */
export default function BoardPage() {
  useTitle('Board');
  const board = useQuery(boardQuery);
  if (!board.data) return <Waiting error={board.error} />;
  const { departures, needs, toLeave, gone, perHour } = board.data;
  const waiting = needs.reduce((n, x) => n + x.orders, 0);
  const today = DateTime.fromISO(departures[0]?.cutOff ?? board.data.now, { zone: board.data.zone }).hasSame(
    DateTime.now().setZone(board.data.zone),
    'day',
  );
  return (
    <div className={css.board}>
      <section aria-labelledby="departures">
        <h1 id="departures">{today ? 'Departures today' : 'Departures tomorrow'}</h1>
        <p className={css.about}>
          {count(toLeave, 'order')} still to leave, {gone} gone.{' '}
          {perHour > 0
            ? `${count(perHour, 'parcel')} an hour at the pace of the last hour and a half.`
            : 'No label was bought in the last hour and a half, so the pace is not known.'}
        </p>
        <div className={css.key}>
          {SEGMENTS.map(([key, letter, word]) => (
            <span key={key}>
              <i className={css[key]} />
              {letter} {word}
            </span>
          ))}
        </div>
        {departures.map(d => (
          <DepartureRow key={d.id} departure={d} zone={board.data.zone} picking={board.data.picking} />
        ))}
      </section>
      <section aria-labelledby="needs">
        <h2 id="needs" className={css.title}>
          Needs a person
        </h2>
        <p className={css.about}>
          {waiting === 0
            ? 'Nothing waits for you.'
            : `${count(waiting, 'order')} ${waiting === 1 ? 'waits' : 'wait'} for something only you can do`}
        </p>
        {needs.slice(0, NEEDS_SHOWN).map(n => (
          <Need key={n.code + n.subject} need={n} />
        ))}
        {needs.length > NEEDS_SHOWN && (
          <p className={css.further}>
            <Link to="/orders?stage=Stopped,Short,Parked">
              and {count(needs.length - NEEDS_SHOWN, 'more cause')}
            </Link>
          </p>
        )}
        <h2 className={css.chartHead}>Labelled today against the cut-offs</h2>
        <PaceChart points={board.data.labelledByHour} zone={board.data.zone} />
      </section>
    </div>
  );
}
