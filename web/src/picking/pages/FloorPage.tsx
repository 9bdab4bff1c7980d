import { OpenedList } from '@auk/contract';
import { count } from '@auk/core';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link, useLocation, useNavigate, useParams } from 'react-router';
import { wordsOf } from '../../api.js';
import { clock } from '../../parts/format.js';
import textCss from '../../parts/text.module.css';
import { useTitle } from '../../parts/useTitle.js';
import { useMe } from '../../people/useMe.js';
import { AnswerBar, OfflineNote } from '../../scans/AnswerBar.js';
import { CameraButton } from '../../scans/Camera.js';
import { Unsent } from '../../scans/Unsent.js';
import { type Opening, useOpening } from '../../scans/useOpening.js';
import { useScanner } from '../../scans/useScanner.js';
import { PauseBuying } from '../../shell/PauseBuying.js';
import { Who } from '../../shell/Who.js';
import { useQuiet } from '../../update.js';
import { listsQuery, openList } from '../api.js';
import css from '../floor.module.css';
import { NEXT, useTakeNext } from '../parts/TakeNext.js';
import { Walk } from '../parts/Walk.js';

/** The Floor: a list is opened by its code, then one stop at a time. */
export default function FloorPage() {
  const { code } = useParams();
  const { key } = useLocation();
  const navigate = useNavigate();
  const opening = useOpening(openList);
  const { opened, open, early, leave } = opening;
  const here = opened?.state.listNo;
  // biome-ignore lint/correctness/useExhaustiveDependencies: each coming to the page opens its list, unless a scan has opened it
  useEffect(() => {
    if (code && code === here) return;
    leave();
    if (code) open(code);
  }, [code, key, leave, open]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the address follows what is opened, not the other way round
  useEffect(() => {
    if (here && here !== code) void navigate(`/floor/${here}`, { replace: code !== undefined });
  }, [here]);
  return (
    <div className={css.floor}>
      {opened ? (
        <Walk key={opened.sessionId} opened={opened} early={early} />
      ) : (
        <ChooseList opening={opening} />
      )}
    </div>
  );
}

function ChooseList({ opening }: { opening: Opening<OpenedList> }) {
  const { problem, open, busy } = opening;
  const me = useMe();
  useTitle('Floor');
  useQuiet();
  const [typed, setTyped] = useState('');
  const lists = useQuery(listsQuery);
  const next = useTakeNext();
  const take = (text: string) => {
    if (text.trim().toUpperCase() === NEXT) next.mutate();
    else open(text.trim().slice(0, 40));
  };
  useScanner(take, { typed: true, onTyping: setTyped });
  const waiting = lists.data?.filter(l => l.state !== 'done' && (l.for === null || l.for === me.name)) ?? [];
  const refused = next.error ? { ...wordsOf(next.error), times: 1 } : problem;
  return (
    <main className={css.hand}>
      <div className={css.head}>
        <Unsent />
        <PauseBuying />
        <CameraButton />
        {me.role !== 'picker' && (
          <Link className={css.away} to="/board">
            Board
          </Link>
        )}
        <Who />
      </div>
      <h1>Scan a pick list</h1>
      {typed && <OfflineNote words={typed} />}
      <Button
        variant="contained"
        className={css.bigbutton}
        disabled={busy || next.isPending || waiting.length === 0}
        onClick={() => next.mutate()}
      >
        Take the next list
      </Button>
      <p className={textCss.quiet}>or one of these:</p>
      {waiting.map(l => (
        <Button
          key={l.id}
          variant="outlined"
          className={css.bigbutton}
          disabled={busy}
          onClick={() => open(l.no)}
        >
          <span>
            <span className={textCss.code}>{l.no}</span> · {count(l.stops, 'stop')},{' '}
            {count(l.units - l.taken, 'piece')} {l.picker ? `· ${l.picker}` : ''}
            {l.for && '· for you'}
            {l.cutOff && ` · leaves ${clock(l.cutOff)}`}
          </span>
        </Button>
      ))}
      {lists.isSuccess && waiting.length === 0 && (
        <p>No list waits. The lead makes them from Clear orders.</p>
      )}
      {refused && (
        <>
          <div className={css.spacer} />
          <AnswerBar
            where="hand"
            answer={{ says: refused.says, next: refused.cure, tone: 'wrong', times: refused.times }}
          />
        </>
      )}
    </main>
  );
}
