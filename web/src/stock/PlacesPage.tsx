import { can, Page, Person, PLACE_KINDS, PlaceRow, pageOf } from '@auk/contract';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/react-query';
import { useCallback, useState } from 'react';
import { Link } from 'react-router';
import { get, send } from '../api.js';
import { ProblemNote } from '../parts/problem.js';
import { useNearEnd } from '../parts/useNearEnd.js';
import { useQuestion } from '../parts/useQuestion.js';
import { StockNav } from './StockNav.js';
import './stock.css';
import { KIND_WORDS } from './words.js';

const EMPTY = { code: '', kind: 'bin', zone: '', capacity: '' };

/** Places of the house: what each is for and holds; new ones; their labels. */
export default function PlacesPage({ me }: { me: Person }) {
  const { question, part, set } = useQuestion();
  const [input, setInput] = useState(EMPTY);
  const client = useQueryClient();
  const lead = can(me, 'places.change');
  const places = useInfiniteQuery({
    queryKey: ['stock', 'places', question],
    queryFn: ({ pageParam }) =>
      get(
        pageOf(PlaceRow),
        `stock/places?${question}${pageParam ? `&after=${encodeURIComponent(pageParam)}` : ''}`,
      ),
    initialPageParam: '',
    getNextPageParam: (last: Page<PlaceRow>) => last.next,
  });
  useNearEnd(
    useCallback(() => void places.fetchNextPage({ cancelRefetch: false }), [places.fetchNextPage]),
    places.hasNextPage && !places.isFetchingNextPage,
  );
  const save = useMutation({
    mutationFn: () =>
      send('stock/places', { ...input, capacity: input.capacity === '' ? null : Number(input.capacity) }),
    onSuccess: async () => {
      setInput(EMPTY);
      await client.invalidateQueries();
    },
  });
  const rows = places.data?.pages.flatMap(p => p.rows) ?? [];
  const labels = (form: string) => `/api/v1/stock/places/labels.pdf?form=${form}&${question}`;
  return (
    <>
      <StockNav />
      <div className="headline">
        <div className="grow">
          <h1>Places</h1>
          <p className="quiet">
            A place bears the code on its shelf. One like A-07-2-B also tells where it stands: aisle A, bay 7,
            level 2, bin B; others are walked last.
          </p>
        </div>
        <TextField label="Place or zone" value={part('words')} onChange={e => set('words', e.target.value)} />
        {lead && (
          <Button component={Link} to="/bring-in?kind=places" variant="outlined">
            Bring in
          </Button>
        )}
      </div>
      <div className="tools">
        <select aria-label="Kind of place" value={part('kind')} onChange={e => set('kind', e.target.value)}>
          <option value="">every kind</option>
          {PLACE_KINDS.map(k => (
            <option key={k} value={k}>
              {KIND_WORDS[k]}
            </option>
          ))}
        </select>
        <span>
          Labels of these:{' '}
          <a href={labels('sheet')} target="_blank" rel="noreferrer">
            sheet of 30
          </a>{' '}
          ·{' '}
          <a href={labels('thermal')} target="_blank" rel="noreferrer">
            label printer
          </a>
        </span>
      </div>
      {lead && (
        <form
          className="planform"
          onSubmit={e => {
            e.preventDefault();
            save.mutate();
          }}
        >
          <label>
            Place
            <input
              value={input.code}
              onChange={e => setInput({ ...input, code: e.target.value.toUpperCase() })}
            />
          </label>
          <label>
            Kind
            <select value={input.kind} onChange={e => setInput({ ...input, kind: e.target.value })}>
              {PLACE_KINDS.map(k => (
                <option key={k} value={k}>
                  {KIND_WORDS[k]}
                </option>
              ))}
            </select>
          </label>
          <label>
            Zone
            <input value={input.zone} onChange={e => setInput({ ...input, zone: e.target.value })} />
          </label>
          <label>
            Holds (units)
            <input
              inputMode="numeric"
              style={{ width: 90 }}
              value={input.capacity}
              onChange={e => setInput({ ...input, capacity: e.target.value.replace(/\D/g, '') })}
            />
          </label>
          <Button type="submit" variant="outlined" disabled={input.code === '' || save.isPending}>
            Save the place
          </Button>
        </form>
      )}
      <ProblemNote error={places.error ?? save.error} />
      <table className="list">
        <thead>
          <tr>
            <th>Place</th>
            <th>Kind</th>
            <th>Zone</th>
            <th className="num">Holds</th>
            <th className="num">Units</th>
            <th className="num">Products</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {rows.map(p => (
            <tr key={p.code} className="opens">
              <td>
                <Link
                  className="code"
                  style={{ color: 'inherit' }}
                  to={`/places/${encodeURIComponent(p.code)}`}
                >
                  {p.code}
                </Link>
              </td>
              <td>{KIND_WORDS[p.kind]}</td>
              <td>{p.zone}</td>
              <td className="num">{p.capacity}</td>
              <td className="num">{p.units || ''}</td>
              <td className="num">{p.products || ''}</td>
              <td className="acts">
                <Link to={`/stock/counts/${encodeURIComponent(p.code)}`}>Count</Link>
                {lead && (
                  <button
                    type="button"
                    onClick={() =>
                      setInput({
                        code: p.code,
                        kind: p.kind,
                        zone: p.zone,
                        capacity: String(p.capacity ?? ''),
                      })
                    }
                  >
                    Change
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {places.isSuccess && rows.length === 0 && (
        <p className="empty">No place is called so. Make it above, or bring in a file.</p>
      )}
    </>
  );
}
