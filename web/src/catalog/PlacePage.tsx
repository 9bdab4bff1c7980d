import { PlaceView } from '@auk/contract';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { get } from '../api.js';
import { ProblemNote } from '../parts/problem.js';

/** What lies in a place or tote. */
export default function PlacePage() {
  const { code } = useParams();
  const place = useQuery({
    queryKey: ['place', code],
    queryFn: () => get(PlaceView, `places/${encodeURIComponent(code!)}`),
  });
  if (!place.data) return <ProblemNote error={place.error} />;
  const { stock, kind } = place.data;
  return (
    <>
      <h1>
        {kind === 'tote' ? 'Tote' : 'Place'} <span className="code">{place.data.code}</span>
      </h1>
      {['bin', 'reserve', 'dock', 'staging', 'bench', 'quarantine'].includes(kind) && (
        <p>
          <Link to={`/stock/counts/${encodeURIComponent(place.data.code)}`}>Count this place</Link>
        </p>
      )}
      {stock.length === 0 && <p className="empty">Nothing lies here.</p>}
      {stock.length > 0 && (
        <table className="list" style={{ marginTop: 16 }}>
          <thead>
            <tr>
              <th>SKU</th>
              <th>Product</th>
              <th className="num">On hand</th>
              <th className="num">On lists</th>
              <th>Lot</th>
            </tr>
          </thead>
          <tbody>
            {stock.map(s => (
              <tr key={s.sku + s.lot}>
                <td>
                  <Link
                    className="code"
                    style={{ color: 'inherit' }}
                    to={`/products/${encodeURIComponent(s.sku)}`}
                  >
                    {s.sku}
                  </Link>
                </td>
                <td>{s.name}</td>
                <td className="num">{s.onHand}</td>
                <td className="num">{s.listed}</td>
                <td>{s.lot}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}
