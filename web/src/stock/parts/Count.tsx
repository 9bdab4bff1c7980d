import { Corrected, CountSession } from '@auk/contract';
import { type CountLine, type CountState, count } from '@auk/core';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { changed } from '../../asked.js';
import { onDevice } from '../../kept.js';
import { Head } from '../../parts/Head.js';
import { Line } from '../../parts/Line.js';
import textCss from '../../parts/text.module.css';
import { useScanner } from '../../scans/useScanner.js';
import { useScanSession } from '../../scans/useScanSession.js';
import { bookCount, countPath } from '../api.js';
import { countedOf, Kept, keep, keyOf, nameOf } from '../keptCount.js';
import css from '../stock.module.css';
import { CountProblem } from './CountProblem.js';
import { StockNav } from './StockNav.js';

interface CountProps {
  kept: Kept;
  session: CountSession;
  anew: () => void;
}

export function Count({ kept, session, anew }: CountProps) {
  const [typed, setTyped] = useState(kept.typed);
  const { state, answer, scan, waiting } = useScanSession<CountState, never>(
    session.id,
    countPath(session.id),
    `the count of ${session.state.place}`,
    session.state,
    null,
  );
  const { place } = state;
  const client = useQueryClient();
  const navigate = useNavigate();
  const save = useMutation({
    mutationFn: () =>
      bookCount({
        key: session.id,
        place,
        seen: state.seen,
        reason: 'cycle count',
        lines: state.lines.flatMap(l => {
          const counted = countedOf(l, typed[keyOf(l)]);
          return counted === '' ? [] : [{ sku: l.sku, lot: l.lot, counted: Number(counted) }];
        }),
      }),
    onSuccess: async () => {
      onDevice.drop(nameOf(place));
      await changed(client, 'stock', 'orders');
    },
  });
  const set = (line: CountLine, value: string) => {
    const next = { ...typed, [keyOf(line)]: { value, scanned: line.counted ?? 0 } };
    setTyped(next);
    keep(place, { id: session.id, typed: next });
  };
  useScanner(scan, { off: save.isSuccess });
  if (save.data)
    return (
      <>
        <StockNav />
        <h1>
          <span className={textCss.code}>{place}</span> is counted
        </h1>
        <Result done={save.data} />
        <Button variant="contained" onClick={() => void navigate('/stock/counts')} style={{ marginTop: 16 }}>
          Next count
        </Button>
      </>
    );
  const open = state.lines.filter(l => countedOf(l, typed[keyOf(l)]) === '').length;
  return (
    <>
      <StockNav />
      <Head
        tab={`Count ${place}`}
        title={
          <>
            Count <span className={textCss.code}>{place}</span>
          </>
        }
        about="What should lie here is not shown, so that the count is a count."
      >
        <Button
          variant="contained"
          disabled={save.isPending || waiting > 0 || open === state.lines.length}
          onClick={() => save.mutate()}
        >
          Save the count
        </Button>
      </Head>
      <CountProblem error={save.error} begin={anew} />
      {state.lines.length === 0 && (
        <p className={textCss.empty}>By the books nothing lies here. Scan what you find.</p>
      )}
      <Table aria-label="What is counted" className={css.count}>
        <TableBody>
          {state.lines.map(l => (
            <TableRow key={keyOf(l)}>
              <TableCell>
                <b>{l.name}</b> <span className={`${textCss.code} ${textCss.quiet}`}>{l.sku}</span>
                {l.lot && <span className={textCss.code}> lot {l.lot}</span>}
              </TableCell>
              <TableCell align="right">
                <Line
                  bare
                  digits
                  width={7}
                  label={`Counted ${l.sku}${l.lot ? ` lot ${l.lot}` : ''}`}
                  value={countedOf(l, typed[keyOf(l)])}
                  onType={value => set(l, value)}
                />
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <p className={answer?.tone === 'wrong' ? textCss.stop : textCss.quiet} role="status">
        {answer ? `${answer.says} ${answer.next} ` : 'Scan each piece, or type what you count. '}
        {open > 0 && `${count(open, 'line')} not counted yet; those stay as they are. None there? Type 0.`}
      </p>
    </>
  );
}

function Result({ done }: { done: Corrected }) {
  if (done.changes.length === 0) return <p className={textCss.good}>✓ Everything was as the books said.</p>;
  return (
    <>
      <ul className={textCss.plain}>
        {done.changes.map(c => (
          <li key={`${c.sku} ${c.lot}`}>
            <Link className={textCss.code} to={`/products/${encodeURIComponent(c.sku)}/ledger`}>
              {c.sku}
            </Link>{' '}
            {c.lot && `lot ${c.lot} `}
            {c.before} → <b>{c.after}</b>
          </li>
        ))}
      </ul>
      {done.short.length > 0 && (
        <p className={textCss.risk}>
          ◆ Short now, newest promise first: {done.short.map(o => o.channelNumber).join(', ')}
        </p>
      )}
    </>
  );
}
