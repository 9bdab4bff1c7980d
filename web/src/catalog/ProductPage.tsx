import type { ProductRow } from '@auk/contract';
import { formatWeight } from '@auk/core';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { get } from '../api.js';
import { Picture } from '../parts/picture.js';
import { ProblemNote } from '../parts/problem.js';
import '../orders/orders.css';

/** One product: codes, stock by place, recipe, listings. */
export default function ProductPage() {
  const { sku } = useParams();
  const product = useQuery({
    queryKey: ['product', sku],
    queryFn: () => get<ProductRow>(`products/${encodeURIComponent(sku!)}`),
  });
  if (!product.data) return <ProblemNote error={product.error} />;
  const p = product.data;
  return (
    <div className="facts">
      <section>
        <div className="row" style={{ marginBottom: 16 }}>
          <Picture name={p.picture} size={72} />
          <div>
            <h1>{p.name}</h1>
            <p className="quiet">
              <span className="code">{p.sku}</span> · {p.kind} · {p.stage}
            </p>
          </div>
        </div>
        {p.kind !== 'bundle' && (
          <>
            <h2>Where it lies</h2>
            {p.places.length === 0 && <p className="empty">It lies nowhere. Stock comes in by receiving.</p>}
            <table className="list">
              <thead>
                <tr>
                  <th>Place</th>
                  <th className="num">On hand</th>
                  <th className="num">On lists</th>
                </tr>
              </thead>
              <tbody>
                {p.places.map(x => (
                  <tr key={x.code}>
                    <td>
                      <Link className="code" style={{ color: 'inherit' }} to={`/places/${x.code}`}>
                        {x.code}
                      </Link>
                    </td>
                    <td className="num">{x.onHand}</td>
                    <td className="num">{x.listed}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </>
        )}
        {p.parts.length > 0 && (
          <>
            <h2 style={{ marginTop: 24 }}>Recipe</h2>
            <table className="list">
              <thead>
                <tr>
                  <th className="num">Units</th>
                  <th>Part</th>
                  <th>SKU</th>
                </tr>
              </thead>
              <tbody>
                {p.parts.map(x => (
                  <tr key={x.sku}>
                    <td className="num">{x.quantity}</td>
                    <td>{x.name}</td>
                    <td>
                      <Link
                        className="code"
                        style={{ color: 'inherit' }}
                        to={`/products/${encodeURIComponent(x.sku)}`}
                      >
                        {x.sku}
                      </Link>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </>
        )}
      </section>
      <aside>
        <dl>
          {p.kind !== 'bundle' && (
            <>
              <dt>On hand</dt>
              <dd>{p.onHand}</dd>
              <dt>Reserved</dt>
              <dd>{p.reserved}</dd>
              <dt>Free</dt>
              <dd>
                <b>{p.free}</b>
              </dd>
            </>
          )}
          {p.weightMg && (
            <>
              <dt>Weight</dt>
              <dd>{formatWeight(p.weightMg, 'imperial')}</dd>
            </>
          )}
          <dt>Codes</dt>
          <dd>
            {p.codes.map(c => (
              <div key={c.code}>
                <span className="code">{c.code}</span>
                {c.units > 1 && ` counts ${c.units}`}
              </div>
            ))}
          </dd>
          <dt>Listings</dt>
          <dd>
            {p.listings.map(l => (
              <div key={l.channel + l.channelSku}>
                {l.channel} <span className="code">{l.channelSku}</span>
              </div>
            ))}
          </dd>
        </dl>
      </aside>
    </div>
  );
}
