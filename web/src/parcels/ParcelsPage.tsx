import { ParcelListRow } from '@auk/contract';
import { formatMoney, formatWeight } from '@auk/core';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { get } from '../api.js';
import { ExportLinks } from '../imports/ExportLinks.js';
import { ProblemNote } from '../parts/problem.js';

const MARK: Record<string, [string, string]> = {
  departed: ['▶', 'good'],
  'handed over': ['◼', 'good'],
  labelled: ['◼', 'good'],
  packed: ['◼', ''],
  'being packed': ['◑', ''],
};

/** Parcels in the house and those that left in the last hours. */
export default function ParcelsPage() {
  const parcels = useQuery({ queryKey: ['parcels'], queryFn: () => get(ParcelListRow.array(), 'parcels') });
  return (
    <>
      <div className="headline">
        <h1 className="grow">Parcels</h1>
        <ExportLinks what="parcels" question="" />
      </div>
      <p className="quiet" style={{ marginBottom: 12 }}>
        In the house, and those that left in the last twelve hours. A parcel goes onto its departure by scan:
        open the departure from the Board.
      </p>
      <ProblemNote error={parcels.error} />
      {parcels.data?.length === 0 && (
        <p className="empty">No parcel yet. The first is opened when a slip is scanned at the bench.</p>
      )}
      {parcels.data && parcels.data.length > 0 && (
        <table className="list">
          <thead>
            <tr>
              <th>Parcel</th>
              <th>Order</th>
              <th>Buyer</th>
              <th>State</th>
              <th>Service</th>
              <th>Tracking</th>
              <th>Box</th>
              <th className="num">Weight</th>
              <th className="num">Label</th>
              <th>Departure</th>
            </tr>
          </thead>
          <tbody>
            {parcels.data.map(p => {
              const [shape, tone] = MARK[p.state] ?? ['▲', 'risk'];
              return (
                <tr key={p.no}>
                  <td className="code">{p.no}</td>
                  <td>
                    <Link
                      className="code"
                      style={{ color: 'inherit' }}
                      to={`/orders?stage=all&words=${p.order}`}
                    >
                      {p.channelNumber}
                    </Link>
                  </td>
                  <td>{p.buyer}</td>
                  <td>
                    <span className={`stage ${tone}`}>
                      <span aria-hidden="true">{shape}</span>
                      {p.state}
                    </span>
                    {p.why && <div className="quiet">{p.why}</div>}
                  </td>
                  <td>{p.service}</td>
                  <td className="code">{p.tracking}</td>
                  <td>{p.box}</td>
                  <td className="num">{p.weightMg ? formatWeight(p.weightMg, 'imperial') : ''}</td>
                  <td className="num">{p.minor === null ? '' : formatMoney(p.minor, p.currency)}</td>
                  <td className="quiet">{p.departure}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
    </>
  );
}
