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
import { playTone } from '../../scans/sounds.js';
import { Unsent } from '../../scans/Unsent.js';
import { useScanner } from '../../scans/useScanner.js';
import { PauseBuying } from '../../shell/PauseBuying.js';
import { Who } from '../../shell/Who.js';
import { useQuiet } from '../../update.js';
import { listsQuery, openList } from '../api.js';
import css from '../floor.module.css';
import { NEXT, useTakeNext } from '../parts/TakeNext.js';
import { Walk } from '../parts/Walk.js';

/** Why a list could not be opened, and how often in a row. */
type Trouble = { says: string; cure: string; times: number };

/** The Floor: a list is opened by its code, then one stop at a time. */
export default function FloorPage() {
  const { code } = useParams();
  // The same code scanned again is tried again, and refused aloud again.
  const { key } = useLocation();
  const [opened, setOpened] = useState<OpenedList | null>(null);
  const [error, setError] = useState<Trouble | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: each coming to the page opens the list anew
  useEffect(() => {
    setOpened(null);
    if (!code) return setError(null);
    let wanted = true;
    openList(code).then(
      got => wanted && setOpened(got),
      problem => {
        if (!wanted) return;
        playTone('wrong');
        setError(before => {
          const words = wordsOf(problem);
          return { ...words, times: before?.says === words.says ? before.times + 1 : 1 };
        });
      },
    );
    return () => {
      wanted = false;
    };
  }, [code, key]);
  return (
    <div className={css.floor}>
      {code && opened ? <Walk key={opened.sessionId} opened={opened} /> : <ChooseList error={error} />}
    </div>
  );
}

function ChooseList({ error }: { error: Trouble | null }) {
  const me = useMe();
  useTitle('Floor');
  useQuiet();
  const navigate = useNavigate();
  const [typed, setTyped] = useState('');
  const lists = useQuery(listsQuery);
  const next = useTakeNext();
  const take = (text: string) => {
    if (text.trim().toUpperCase() === NEXT) next.mutate();
    else void navigate(`/floor/${encodeURIComponent(text.trim().slice(0, 40))}`);
  };
  useScanner(take, { typed: true, onTyping: setTyped });
  const waiting = lists.data?.filter(l => l.state !== 'done' && (l.for === null || l.for === me.name)) ?? [];
  const refused = next.error ? { ...wordsOf(next.error), times: 1 } : error;
  return (
    <main className={css.hand}>
      <div className={css.head}>
        <Unsent />
        <PauseBuying short />
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
        disabled={next.isPending || waiting.length === 0}
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
          onClick={() => void navigate(`/floor/${l.no}`)}
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
