import { BenchView } from '@auk/contract';
import { canonicalCode, count } from '@auk/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useState } from 'react';
import { Link } from 'react-router';
import { answered } from '../../asked.js';
import { myBenchQuery, takeBench } from '../../benches/api.js';
import { stripQuery } from '../../departures/api.js';
import { useTitle } from '../../parts/useTitle.js';
import { useMe } from '../../people/useMe.js';
import { AnswerBar, OfflineNote } from '../../scans/AnswerBar.js';
import css from '../../scans/bench.module.css';
import { Unsent } from '../../scans/Unsent.js';
import { useOnward } from '../../scans/useOnward.js';
import { type NotOpened, useOpening } from '../../scans/useOpening.js';
import { useScanner } from '../../scans/useScanner.js';
import { PauseBuying } from '../../shell/PauseBuying.js';
import { Who } from '../../shell/Who.js';
import { useQuiet } from '../../update.js';
import { openAtBench, queueQuery } from '../api.js';
import ownCss from '../packing.module.css';
import { Arrived } from '../parts/Arrived.js';
import { PackBoard } from '../parts/PackBoard.js';
import { Queue } from '../parts/Queue.js';

/** The Bench: waits for a slip, tote or parcel, then packs that order; all by scanner and keys. */
export default function BenchPage() {
  useTitle('Bench');
  const client = useQueryClient();
  const onward = useOnward();
  const bench = useQuery(myBenchQuery).data?.bench ?? null;
  const { opened, problem, open, early, leave } = useOpening<BenchView>(async (code, waiting) => {
    if (/^BE-/i.test(code.trim())) {
      await answered(client, myBenchQuery, await takeBench(code.trim()));
      return null;
    }
    if (/^IN-\d/i.test(code.trim())) {
      await onward(`/prepare?at=${code.trim()}`, waiting.splice(0));
      return null;
    }
    const view = await openAtBench(code);
    // The piece that opened the order is in a hand: it counts.
    if (isPieceOf(view, code)) waiting.unshift(code);
    return view;
  });
  /** An order is done: what follows is the bench's choice. */
  const done = useCallback(async () => {
    if (bench?.afterOrder !== 'next') return;
    const queue = await client.fetchQuery({ ...queueQuery, staleTime: 0 }).catch(() => []);
    const next = queue.find(q => q.packer === null);
    if (next) open(next.no);
    else leave();
  }, [bench, client, leave, open]);
  return (
    <div className={css.bench}>
      {opened ? (
        <PackBoard
          key={opened.sessionId}
          view={opened}
          open={open}
          early={early}
          leave={leave}
          scaleOf={bench?.scale ? bench.id : null}
          takesFirst={bench?.takesFirst ?? false}
          done={done}
        />
      ) : (
        <Waiting problem={problem} open={open} bench={bench?.name ?? null} />
      )}
    </div>
  );
}

/** True when an order that nothing is in yet was opened by one of its pieces. */
const isPieceOf = ({ state }: BenchView, code: string): boolean =>
  state.lines.every(l => l.packed === 0) &&
  state.lines.some(l => l.product.codes.some(c => c.code === canonicalCode(code)));

interface WaitingProps {
  problem: NotOpened | null;
  open: (code: string) => void;
  /** The name of the bench that this device stands at. */
  bench: string | null;
}

/** No order is open: what was refused, if anything, and what to scan. */
function Waiting({ problem, open, bench }: WaitingProps) {
  const me = useMe();
  const [typed, setTyped] = useState('');
  const strip = useQuery(stripQuery);
  useQuiet();
  useScanner(open, { typed: true, onTyping: setTyped });
  const answer = problem
    ? { says: problem.says, next: problem.cure, tone: 'wrong' as const, times: problem.times }
    : {
        says: 'Ready.',
        next: 'The slip, the tote, the pick list, a picked piece, or the parcel you had before.',
        tone: 'info' as const,
      };
  return (
    <div className={`${css.edge} ${problem ? css.wrong : ''}`}>
      <header className={css.bhead}>
        <h1>{bench ?? 'Bench'}</h1>
        {bench === null && <small>Scan the code of your bench once, so that papers come out there.</small>}
        <Unsent />
        <PauseBuying />
        {me.role !== 'packer' && (
          <Link className={css.end} to="/board">
            Board
          </Link>
        )}
        <Who />
      </header>
      <main className={css.wait}>
        <b>Scan a slip or a tote</b>
        <span className={css.plain}>
          {strip.data
            ? `${count(strip.data.bench, 'order')} ${strip.data.bench === 1 ? 'is' : 'are'} picked and ${strip.data.bench === 1 ? 'waits' : 'wait'} for a bench.`
            : ''}
        </span>
        {typed && <OfflineNote words={typed} />}
        <div className={ownCss.waiting}>
          <Queue open={open} />
          <Arrived open={open} />
        </div>
        <a className={css.plain} href="/api/v1/printing/scan-sheet.pdf" target="_blank" rel="noreferrer">
          Print the scan sheet
        </a>
      </main>
      <AnswerBar answer={answer} where="foot" />
    </div>
  );
}
