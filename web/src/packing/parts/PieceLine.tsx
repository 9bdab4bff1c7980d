import type { ScanProduct } from '@auk/core';
import type { ReactNode } from 'react';
import pageCss from '../../parts/page.module.css';
import { Picture } from '../../parts/picture.js';
import { Pips } from '../../parts/pips.js';
import textCss from '../../parts/text.module.css';
import css from '../../scans/bench.module.css';

interface Props {
  product: ScanProduct;
  wanted: number;
  done: number;
  /** The one that is at hand is drawn larger. */
  now: boolean;
  /** Nothing of it is missing; by its counts when not said. */
  whole?: boolean;
  /** What there is to know about it, under its name. */
  about: (string | null | false)[];
  children?: ReactNode;
}

/** One product at the bench or the dock: what it looks like, how many are wanted, how many are there. */
export function PieceLine({ product, wanted, done, now, whole, about, children }: Props) {
  const all = whole ?? done === wanted;
  return (
    <div
      data-part="line"
      data-now={now || undefined}
      className={now ? `${css.pline} ${css.now}` : all ? `${css.pline} ${css.in}` : css.pline}
    >
      <Picture name={product.picture} size={now ? 92 : 56} />
      <div className={pageCss.grow}>
        <b className={css.name}>{product.name}</b>
        <div>
          <span className={`${textCss.code} ${css.sku}`} data-part="sku">
            {product.sku}
          </span>{' '}
          <small>{about.filter(Boolean).join(' · ')}</small>
        </div>
        {children}
      </div>
      <Pips wanted={wanted} done={done} small={!now} />
      <div className={css.units} data-part="units">
        <b>{done}</b> of {wanted}
        {all && ' ✓'}
      </div>
    </div>
  );
}
