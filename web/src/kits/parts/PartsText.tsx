import type { KitPart } from '@auk/contract';
import { Link } from 'react-router';

/** Parts in one line: how many of what, each leading to its product. */
export function PartsText({ parts }: { parts: readonly KitPart[] }) {
  return (
    <>
      {parts.map((p, i) => (
        <span key={p.sku}>
          {i > 0 && ', '}
          {p.quantity} × <Link to={`/products/${encodeURIComponent(p.sku)}`}>{p.name}</Link>
        </span>
      ))}
    </>
  );
}
