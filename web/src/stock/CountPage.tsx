import { Corrected, FoundCode, PlaceView } from '@auk/contract';
import { canonicalCode, count } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { v7 } from 'uuid';
import { get, post, Refused } from '../api.js';
import { ProblemNote } from '../parts/problem.js';
import { playTone } from '../scans/sounds.js';
import { useScanner } from '../scans/useScanner.js';
import { StockNav } from './StockNav.js';
import './stock.css';

interface Line {
  sku: string;
  name: string;
  lot: string | null;
  counted: string;
}
interface Draft {
  key: string;
  /** The place’s newest move when the count was begun. */
  seen: number;
  lines: Line[];
}

/** Counts a place without telling what should lie there. Each scan of a product counts its units; numbers can be typed too. Kept on the device until it is saved. */
export default function CountPage() {
  const { place } = useParams();
  const view = useQuery({
    queryKey: ['place', place],
    queryFn: () => get(PlaceView, `places/${encodeURIComponent(place!)}`),
  });
  if (!view.data) return <ProblemNote error={view.error} />;
  return <Count key={place} place={view.data} />;
}

/** A count begun now, of what the books say lies there. */
const begun = (place: PlaceView): Draft => ({
  key: v7(),
  seen: place.seen,
  lines: place.stock.map(s => ({ sku: s.sku, name: s.name, lot: s.lot, counted: '' })),
});

const kept = (place: string) => `auk.count.${place}`;

function Count({ place }: { place: PlaceView }) {
  const [draft, setDraft] = useState<Draft>(() => {
    const text = localStorage.getItem(kept(place.code));
    const known = text && (JSON.parse(text) as Draft);
    if (known && known.seen !== undefined) return known;
    return begun(place);
  });
  const [says, setSays] = useState('Scan each piece, or type what you count.');
  const client = useQueryClient();
  const navigate = useNavigate();
  useEffect(() => localStorage.setItem(kept(place.code), JSON.stringify(draft)), [draft, place.code]);
  const save = useMutation({
    mutationFn: () =>
      post(Corrected, 'stock/counts', {
        key: draft.key,
        place: place.code,
        seen: draft.seen,
        reason: 'cycle count',
        lines: draft.lines
          .filter(l => l.counted !== '')
          .map(l => ({ sku: l.sku, lot: l.lot, counted: Number(l.counted) })),
      }),
    onSuccess: async () => {
      localStorage.removeItem(kept(place.code));
      await client.invalidateQueries();
    },
  });
  /** Forgets what was counted and begins from what lies there now. */
  const anew = async () => {
    const now = await client.fetchQuery({
      queryKey: ['place', place.code],
      queryFn: () => get(PlaceView, `places/${encodeURIComponent(place.code)}`),
      staleTime: 0,
    });
    save.reset();
    setDraft(begun(now));
    setSays('Scan each piece, or type what you count.');
  };
  const set = (i: number, counted: string) =>
    setDraft(d => ({ ...d, lines: d.lines.map((l, k) => (k === i ? { ...l, counted } : l)) }));
  const scanned = async (text: string) => {
    const code = canonicalCode(text);
    const found = await get(FoundCode, `stock/code?code=${encodeURIComponent(code)}`).then(
      a => a.product,
      () => null,
    );
    if (!found) {
      playTone('wrong');
      setSays(`Nothing has the code ${text.slice(0, 30)}.`);
      return;
    }
    playTone('right');
    setDraft(d => {
      const at = d.lines.findIndex(l => l.sku === found.sku);
      const lines =
        at === -1
          ? [...d.lines, { sku: found.sku, name: found.name, lot: null, counted: String(found.units) }]
          : d.lines.map((l, i) =>
              i === at ? { ...l, counted: String(Number(l.counted || 0) + found.units) } : l,
            );
      setSays(`${found.units} × ${found.name}.`);
      return { ...d, lines };
    });
  };
  useScanner(text => void scanned(text), { off: save.isSuccess });
  if (save.data)
    return (
      <>
        <StockNav />
        <h1>
          <span className="code">{place.code}</span> is counted
        </h1>
        <Result done={save.data} />
        <Button variant="contained" onClick={() => void navigate('/stock/counts')} style={{ marginTop: 16 }}>
          Next count
        </Button>
      </>
    );
  const open = draft.lines.filter(l => l.counted === '').length;
  return (
    <>
      <StockNav />
      <div className="headline">
        <div className="grow">
          <h1>
            Count <span className="code">{place.code}</span>
          </h1>
          <p className="quiet">What should lie here is not shown, so that the count is a count.</p>
        </div>
        <Button
          variant="contained"
          disabled={save.isPending || open === draft.lines.length}
          onClick={() => save.mutate()}
        >
          Save the count
        </Button>
      </div>
      <ProblemNote error={save.error} />
      {save.error instanceof Refused && save.error.problem.status === 409 && (
        <Button variant="outlined" onClick={() => void anew()}>
          Begin the count anew
        </Button>
      )}
      {draft.lines.length === 0 && (
        <p className="empty">By the books nothing lies here. Scan what you find.</p>
      )}
      <table className="list count">
        <tbody>
          {draft.lines.map((l, i) => (
            <tr key={`${l.sku} ${l.lot}`}>
              <td>
                <b>{l.name}</b> <span className="code quiet">{l.sku}</span>
                {l.lot && <span className="code"> lot {l.lot}</span>}
              </td>
              <td className="num">
                <input
                  aria-label={`Counted ${l.sku}${l.lot ? ` lot ${l.lot}` : ''}`}
                  inputMode="numeric"
                  value={l.counted}
                  onChange={e => set(i, e.target.value.replace(/\D/g, ''))}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="quiet" role="status">
        {says}{' '}
        {open > 0 && `${count(open, 'line')} not counted yet; those stay as they are. None there? Type 0.`}
      </p>
    </>
  );
}

function Result({ done }: { done: Corrected }) {
  if (done.changes.length === 0) return <p className="good">✓ Everything was as the books said.</p>;
  return (
    <>
      <ul className="plain">
        {done.changes.map(c => (
          <li key={`${c.sku} ${c.lot}`}>
            <Link className="code" to={`/products/${encodeURIComponent(c.sku)}/ledger`}>
              {c.sku}
            </Link>{' '}
            {c.lot && `lot ${c.lot} `}
            {c.before} → <b>{c.after}</b>
          </li>
        ))}
      </ul>
      {done.short.length > 0 && (
        <p className="risk">
          ◆ Short now, newest promise first: {done.short.map(o => o.channelNumber).join(', ')}
        </p>
      )}
    </>
  );
}
