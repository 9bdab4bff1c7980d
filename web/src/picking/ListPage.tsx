import { ListView } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { get } from '../api.js';
import { ProblemNote } from '../parts/problem.js';
import { WalkMap } from './WalkMap.js';

/** One pick list: its walk, its stops in walking order, and its paper. */
export default function ListPage() {
  const { no } = useParams();
  const list = useQuery({ queryKey: ['list', no], queryFn: () => get(ListView, `picking/lists/${no}`) });
  if (!list.data) return <ProblemNote error={list.error} />;
  const l = list.data;
  return (
    <>
      <div className="headline">
        <div className="grow">
          <h1>
            Pick list <span className="code">{l.no}</span>
          </h1>
          <p className="quiet">
            {count(l.orders, 'order')}, {count(l.stops, 'stop')}, {l.taken} of {count(l.units, 'piece')}{' '}
            taken, {l.metres} m to walk{l.picker ? `, ${l.picker}` : ''}
          </p>
        </div>
        <Button variant="outlined" href={`/api/v1/picking/lists/${l.no}/sheet.pdf`} target="_blank">
          Print
        </Button>
        {l.state !== 'done' && (
          <Button variant="contained" component={Link} to={`/floor/${l.no}`}>
            Pick it
          </Button>
        )}
      </div>
      <div style={{ maxWidth: 560, marginBottom: 16 }}>
        <WalkMap
          stops={l.rows.map(r => ({ aisle: r.aisle, along: r.along, done: r.taken >= r.quantity }))}
          at={null}
        />
      </div>
      <table className="list">
        <thead>
          <tr>
            <th className="num">Stop</th>
            <th>Place</th>
            <th>Product</th>
            <th>SKU</th>
            <th className="num">Pieces</th>
            <th>Into tote</th>
            <th>Order</th>
          </tr>
        </thead>
        <tbody>
          {l.rows.map(r => (
            <tr key={r.seq}>
              <td className="num">{r.seq}</td>
              <td className="code">{r.place}</td>
              <td>{r.name}</td>
              <td className="code">{r.sku}</td>
              <td className="num">
                {r.taken} of {r.quantity}
              </td>
              <td className="code">{r.tote}</td>
              <td className="code">{r.order}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
