import { useQuery } from '@tanstack/react-query';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { centerStockQuery, centersQuery } from '../api.js';

/** What lies of a product at fulfillment centers, as they tell; it is beside the house's own stock. */
export function AtCenters({ sku }: { sku: string }) {
  const centers = useQuery(centersQuery);
  if (!centers.data?.length) return null;
  return (
    <section aria-label="At fulfillment centers">
      <h2>At fulfillment centers</h2>
      <ul className={textCss.plain}>
        {centers.data.map(c => (
          <AtCenter key={c.name} name={c.name} sku={sku} />
        ))}
      </ul>
    </section>
  );
}

function AtCenter({ name, sku }: { name: string; sku: string }) {
  const stock = useQuery(centerStockQuery(name));
  return (
    <li>
      {name} {stock.data && <b>{stock.data.rows.find(r => r.code === sku)?.units ?? 0}</b>}
      <ProblemNote error={stock.error} />
    </li>
  );
}
