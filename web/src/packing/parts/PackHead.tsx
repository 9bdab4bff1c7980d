import { BenchView } from '@auk/contract';
import { openNotes, type PackState } from '@auk/core';
import { clock, minutesUntil, span } from '../../parts/format.js';
import textCss from '../../parts/text.module.css';
import { useMinute } from '../../parts/useMinute.js';
import { useTitle } from '../../parts/useTitle.js';
import { useMe } from '../../people/useMe.js';
import css from '../../scans/bench.module.css';
import { Unsent } from '../../scans/Unsent.js';
import { PauseBuying } from '../../shell/PauseBuying.js';

export function PackHead({ view, state }: { view: BenchView; state: PackState }) {
  const me = useMe();
  useTitle(`Bench ${view.channelNumber}`);
  const now = useMinute();
  const left = view.departure ? minutesUntil(view.departure.cutOff, now) : 0;
  return (
    <header className={css.bhead}>
      <h1 className={`${textCss.code} ${css.no}`}>{view.channelNumber}</h1>
      <span>
        <b>{view.buyer}</b>
        <small>
          {view.town} · {view.channel}
        </small>
      </span>
      <Unsent />
      <PauseBuying />
      {view.departure && (
        <span>
          <b>
            {view.departure.carrier} {clock(view.departure.cutOff)}
          </b>
          <small>{left > 0 ? `${span(left)} left` : 'its time has passed'}</small>
        </span>
      )}
      {view.note && (
        <span className={css.note}>
          <b>Note</b>
          {view.note}
        </span>
      )}
      {view.notes.map(n => (
        <span key={n.text} className={css.note}>
          <b>{n.confirm && openNotes(state).some(o => o.text === n.text) ? '▲ Confirm' : 'Note'}</b>
          {n.text}
        </span>
      ))}
      <span className={css.end}>
        <b>{view.behind} behind you</b>
        <small>
          {me.name} · <span className={textCss.whole}>{view.parcels.at(-1)!.no}</span>
        </small>
      </span>
    </header>
  );
}
