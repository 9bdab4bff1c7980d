import { BenchView, Person, Strip } from '@auk/contract';
import { ThemeProvider } from '@mui/material/styles';
import { useQuery } from '@tanstack/react-query';
import { useCallback, useRef, useState } from 'react';
import { Link } from 'react-router';
import { get, post, wordsOf } from '../api.js';
import { deviceId } from '../scans/device.js';
import { playTone } from '../scans/sounds.js';
import { useScanner } from '../scans/useScanner.js';
import { benchTheme } from '../theme.js';
import './bench.css';
import { PackBoard } from './PackBoard.js';

/** The Bench: waits for a slip, tote or parcel, then packs that order; all by scanner and keys. */
export default function BenchPage({ me }: { me: Person }) {
  const [view, setView] = useState<BenchView | null>(null);
  const [problem, setProblem] = useState<{ says: string; cure: string } | null>(null);
  const opening = useRef(false);
  /** Opens what a code belongs to; while one is being opened, scans wait their turn by being refused aloud. */
  const open = useCallback(async (code: string) => {
    if (opening.current) return;
    opening.current = true;
    try {
      setView(await post(BenchView, 'packing/open', { code, device: deviceId() }));
      setProblem(null);
      playTone('right');
    } catch (error) {
      setProblem(wordsOf(error));
      setView(null);
      playTone('wrong');
    }
    opening.current = false;
  }, []);
  return (
    <ThemeProvider theme={benchTheme}>
      <div className="bench">
        {view ? (
          <PackBoard key={view.sessionId} me={me} view={view} open={open} leave={() => setView(null)} />
        ) : (
          <Waiting me={me} problem={problem} open={open} />
        )}
      </div>
    </ThemeProvider>
  );
}

function Waiting({
  me,
  problem,
  open,
}: {
  me: Person;
  problem: { says: string; cure: string } | null;
  open: (code: string) => void;
}) {
  const [typed, setTyped] = useState('');
  const strip = useQuery({
    queryKey: ['strip'],
    queryFn: () => get(Strip, 'departures/strip'),
    refetchInterval: 30_000,
  });
  useScanner(open, { typed: true, onTyping: setTyped });
  return (
    <div className={`edge ${problem ? 'wrong' : ''}`}>
      <div className="bhead">
        <b>Bench</b>
        <span style={{ marginLeft: 'auto', textAlign: 'right' }}>
          <b>{me.name}</b>
          {me.role === 'packer' ? <small>{me.role}</small> : <Link to="/board">Board</Link>}
        </span>
      </div>
      <main className="wait">
        <b>Scan a slip or a tote</b>
        <span className="plain">
          {strip.data ? `${strip.data.bench} orders are picked and wait for a bench.` : ''}
        </span>
        {typed && <span className="typed">{typed}</span>}
        <a className="plain" href="/api/v1/printing/scan-sheet.pdf" target="_blank" rel="noreferrer">
          Print the scan sheet
        </a>
      </main>
      <div className={`answer ${problem ? 'wrong' : ''}`} role="status" aria-live="assertive">
        <div>
          <b>{problem?.says ?? 'Ready.'}</b>
          {problem?.cure ?? 'The slip, the tote, or the parcel you had before.'}
        </div>
      </div>
    </div>
  );
}
