import { ListRow } from '@auk/contract';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { get } from '../api.js';
import { moment } from '../parts/format.js';
import { ProblemNote } from '../parts/problem.js';

const STATE: Record<ListRow['state'], string> = {
  released: '○ waits',
  picking: '◐ being picked',
  done: '● done',
};

/** Pick lists: those that wait, those under way, and the newest done. */
export default function PickPage() {
  const lists = useQuery({ queryKey: ['lists'], queryFn: () => get(ListRow.array(), 'picking/lists') });
  return (
    <>
      <div className="headline">
        <div className="grow">
          <h1>Pick lists</h1>
          <p className="quiet">Scan a list's code on the Floor to pick it.</p>
        </div>
        <Button component={Link} to="/orders?stage=Clear" variant="contained">
          Plan pick list
        </Button>
      </div>
      <ProblemNote error={lists.error} />
      {lists.data?.length === 0 && (
        <p className="empty">There is no pick list yet. Choose Clear orders and make one.</p>
      )}
      {lists.data && lists.data.length > 0 && (
        <table className="list">
          <thead>
            <tr>
              <th>List</th>
              <th>State</th>
              <th>Picker</th>
              <th className="num">Orders</th>
              <th className="num">Stops</th>
              <th className="num">Taken</th>
              <th className="num">Walk</th>
              <th>Made</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {lists.data.map(l => (
              <tr key={l.id}>
                <td>
                  <Link className="code" style={{ color: 'inherit' }} to={`/pick/${l.no}`}>
                    {l.no}
                  </Link>
                </td>
                <td>{STATE[l.state]}</td>
                <td>{l.picker}</td>
                <td className="num">{l.orders}</td>
                <td className="num">{l.stops}</td>
                <td className="num">
                  {l.taken} of {l.units}
                </td>
                <td className="num">{l.metres} m</td>
                <td>{moment(l.createdAt)}</td>
                <td>{l.state !== 'done' && <Link to={`/floor/${l.no}`}>Pick</Link>}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}
