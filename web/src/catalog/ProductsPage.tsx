import type { ProductRow } from '@auk/contract';
import { formatWeight } from '@auk/core';
import TextField from '@mui/material/TextField';
import { useQuery } from '@tanstack/react-query';
import { Link, useSearchParams } from 'react-router';
import { get } from '../api.js';
import { Picture } from '../parts/picture.js';
import { ProblemNote } from '../parts/problem.js';

/** Products with their stock. */
export default function ProductsPage() {
  const [params, setParams] = useSearchParams();
  const words = params.get('words') ?? '';
  const products = useQuery({
    queryKey: ['products', words],
    queryFn: () => get<ProductRow[]>(`products?words=${encodeURIComponent(words)}`),
  });
  return (
    <>
      <div className="headline">
        <h1 className="grow">Products</h1>
        <TextField
          label="Name or SKU"
          value={words}
          onChange={e => setParams(e.target.value ? { words: e.target.value } : {}, { replace: true })}
        />
      </div>
      <ProblemNote error={products.error} />
      {products.data?.length === 0 && (
        <p className="empty">No product is called so. Clear the field to see all.</p>
      )}
      <table className="list">
        <thead>
          <tr>
            <th />
            <th>SKU</th>
            <th>Name</th>
            <th>Kind</th>
            <th>Places</th>
            <th className="num">On hand</th>
            <th className="num">Reserved</th>
            <th className="num">Free</th>
            <th className="num">Weight</th>
          </tr>
        </thead>
        <tbody>
          {products.data?.map(p => (
            <tr key={p.id}>
              <td style={{ width: 40 }}>
                <Picture name={p.picture} size={28} />
              </td>
              <td>
                <Link
                  className="code"
                  style={{ color: 'inherit' }}
                  to={`/products/${encodeURIComponent(p.sku)}`}
                >
                  {p.sku}
                </Link>
              </td>
              <td>{p.name}</td>
              <td>{p.kind === 'piece' ? '' : p.kind}</td>
              <td className="code">
                {p.places
                  .slice(0, 3)
                  .map(x => x.code)
                  .join(' ')}
              </td>
              <td className="num">{p.kind === 'bundle' ? '' : p.onHand}</td>
              <td className="num">{p.kind === 'bundle' ? '' : p.reserved}</td>
              <td className="num">{p.kind === 'bundle' ? '' : p.free}</td>
              <td className="num">{p.weightMg ? formatWeight(p.weightMg, 'imperial') : ''}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
