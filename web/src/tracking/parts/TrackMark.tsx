import type { ParcelListRow } from '@auk/contract';
import { day } from '../../parts/format.js';
import textCss from '../../parts/text.module.css';

const DAYS = /\d{4}-\d\d-\d\d/g;

/** Words of a carrier or of the house, with their days as people read them. */
export const withDays = (text: string): string => text.replace(DAYS, d => day(d));

/** Where a parcel that left stands, or what is wrong with it: a shape, a word, and why. */
export function TrackMark({ track, trouble }: Pick<ParcelListRow, 'track' | 'trouble'>) {
  if (trouble)
    return (
      <>
        <span className={`${textCss.stage} ${textCss.stop}`}>
          <span aria-hidden="true">▲</span>
          {trouble.trouble}
        </span>
        <div className={textCss.quiet}>{withDays(trouble.says)}</div>
      </>
    );
  return track === 'delivered' ? (
    <span className={`${textCss.stage} ${textCss.good}`}>
      <span aria-hidden="true">✓</span>delivered
    </span>
  ) : (
    <span className={textCss.stage}>
      <span aria-hidden="true">▶</span>
      {track ?? 'left the house'}
    </span>
  );
}
