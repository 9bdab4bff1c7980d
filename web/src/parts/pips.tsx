import pipsCss from './pips.module.css';

const BLOCKS_OVER = 24;
const BAR_OVER = 100;

/** One dot a unit: hollow = wanted, filled = scanned. Over 24 in blocks of ten, over 100 as a filled bar. */
export function Pips({ wanted, done, small }: { wanted: number; done: number; small?: boolean }) {
  const label = `${done} of ${wanted}`;
  if (wanted > BAR_OVER)
    return (
      <div className={pipsCss.fill} data-part="pips" role="img" aria-label={label}>
        <i style={{ width: `${(100 * done) / wanted}%` }} />
      </div>
    );
  const dots = Array.from({ length: wanted }, (_, i) => (
    <span key={i} className={i < done ? `${pipsCss.pip} ${pipsCss.in}` : pipsCss.pip} />
  ));
  if (wanted <= BLOCKS_OVER)
    return (
      <div
        data-part="pips"
        data-small={small || undefined}
        className={small ? `${pipsCss.pips} ${pipsCss.small}` : pipsCss.pips}
        role="img"
        aria-label={label}
      >
        {dots}
      </div>
    );
  const blocks = Array.from({ length: Math.ceil(wanted / 10) }, (_, b) => dots.slice(b * 10, b * 10 + 10));
  return (
    <div data-part="pips" className={pipsCss.pips} role="img" aria-label={label}>
      {blocks.map((block, b) => (
        <div className={pipsCss.block} key={b}>
          {block}
        </div>
      ))}
    </div>
  );
}
