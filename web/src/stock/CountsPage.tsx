import { CountProposal } from '@auk/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { get } from '../api.js';
import { day } from '../parts/format.js';
import { ProblemNote } from '../parts/problem.js';
import { StockNav } from './StockNav.js';
import './stock.css';

/** What should be counted next, and a way to count any place. */
export default function CountsPage() {
  const proposed = useQuery({
    queryKey: ['stock', 'counts'],
    queryFn: () => get(CountProposal.array(), 'stock/counts/proposed'),
  });
  const [place, setPlace] = useState('');
  const navigate = useNavigate();
  return (
    <>
      <StockNav />
      <div className="headline">
        <div className="grow">
          <h1>Counts</h1>
          <p className="quiet">
            Proposed by what was found otherwise before, and by value that lay long uncounted.
          </p>
        </div>
        <form
          className="row"
          style={{ gap: 8 }}
          onSubmit={e => {
            e.preventDefault();
            if (place.trim() !== '')
              void navigate(`/stock/counts/${encodeURIComponent(place.trim().toUpperCase())}`);
          }}
        >
          <label htmlFor="place">Count a place</label>
          <input
            id="place"
            style={{ width: 130 }}
            placeholder="A-07-2"
            value={place}
            onChange={e => setPlace(e.target.value)}
          />
        </form>
      </div>
      <ProblemNote error={proposed.error} />
      <table className="list">
        <thead>
          <tr>
            <th>Place</th>
            <th>Product</th>
            <th>Why</th>
            <th>Last counted</th>
          </tr>
        </thead>
        <tbody>
          {proposed.data?.map(p => (
            <tr key={p.place + p.sku} className="opens">
              <td>
                <Link className="code" to={`/stock/counts/${encodeURIComponent(p.place)}`}>
                  {p.place}
                </Link>
              </td>
              <td>
                {p.name} <span className="code quiet">{p.sku}</span>
              </td>
              <td className={p.why.includes('found') ? 'risk' : ''}>
                {p.why.includes('found') && '▲ '}
                {p.why}
              </td>
              <td>{p.countedAt ? day(p.countedAt) : <span className="quiet">never</span>}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {proposed.data?.length === 0 && (
        <p className="empty">Nothing needs counting: all was counted lately and found right.</p>
      )}
    </>
  );
}
