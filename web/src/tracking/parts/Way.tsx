import { useQuery } from '@tanstack/react-query';
import { day, moment } from '../../parts/format.js';
import pageCss from '../../parts/page.module.css';
import textCss from '../../parts/text.module.css';
import { Waiting } from '../../parts/Waiting.js';
import { wayQuery } from '../api.js';
import { TrackMark } from './TrackMark.js';

/** What its carrier tells of a parcel that left, the newest first. */
export function Way({ no }: { no: string }) {
  const way = useQuery(wayQuery(no));
  if (!way.data) return <Waiting error={way.error} />;
  const w = way.data;
  return (
    <section>
      <h3>On its way</h3>
      <TrackMark track={w.state} trouble={w.trouble} />
      {w.expected && w.state !== 'delivered' && (
        <div className={textCss.quiet}>its carrier means to deliver it {day(w.expected)}</div>
      )}
      {w.why && <div className={textCss.risk}>! {w.why}</div>}
      <ul className={pageCss.history} data-part="way">
        {w.events.map(e => (
          <li key={e.at + e.kind + e.says}>
            <span className={textCss.quiet}>{moment(e.at)}</span>
            <div>
              {e.says} <span className={textCss.quiet}>{e.place}</span>
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}
