import type { ScanProduct } from '@auk/core';
import type { ReactNode } from 'react';
import { Picture } from '../parts/picture.js';
import { Pips } from '../parts/pips.js';

interface Props {
  product: ScanProduct;
  wanted: number;
  done: number;
  /** The one that is at hand is drawn larger. */
  now: boolean;
  /** What there is to know about it, under its name. */
  about: (string | null | false)[];
  children?: ReactNode;
}

/** One product at the bench or the dock: what it looks like, how many are wanted, how many are there. */
export function PieceLine({ product, wanted, done, now, about, children }: Props) {
  const all = done === wanted;
  return (
    <div className={now ? 'pline now' : all ? 'pline in' : 'pline'}>
      <Picture name={product.picture} size={now ? 92 : 56} />
      <div className="grow">
        <b className="name">{product.name}</b>
        <div>
          <span className="code" style={{ fontSize: 16, color: 'var(--quiet)' }}>
            {product.sku}
          </span>{' '}
          <small>{about.filter(Boolean).join(' · ')}</small>
        </div>
        {children}
      </div>
      <Pips wanted={wanted} done={done} small={!now} />
      <div className="units">
        <b>{done}</b> of {wanted}
        {all && ' ✓'}
      </div>
    </div>
  );
}
