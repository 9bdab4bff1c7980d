import { type FloorChoices, OpenedList } from '@auk/contract';
import { count, nextHint, type PickState, pickDone, pickScan, stopOpen, toteToBring } from '@auk/core';
import ButtonBase from '@mui/material/ButtonBase';
import LinearProgress from '@mui/material/LinearProgress';
import { useQuery } from '@tanstack/react-query';
import { lazy, type RefObject, Suspense, useState } from 'react';
import { Link } from 'react-router';
import textCss from '../../parts/text.module.css';
import { useTitle } from '../../parts/useTitle.js';
import { useMe } from '../../people/useMe.js';
import type { Pressed } from '../../rules/press.js';
import { isButton } from '../../rules/target.js';
import { AnswerBar, OfflineNote } from '../../scans/AnswerBar.js';
import { CameraButton } from '../../scans/Camera.js';
import { Unsent } from '../../scans/Unsent.js';
import { useEarly } from '../../scans/useOpening.js';
import { useScanner } from '../../scans/useScanner.js';
import { type ScanSession, useScanSession } from '../../scans/useScanSession.js';
import { PauseBuying } from '../../shell/PauseBuying.js';
import { listQuery, walkPath } from '../api.js';
import css from '../floor.module.css';
import { Bring, Finished, Pause } from './Between.js';
import { Overview } from './Overview.js';
import { Stop } from './Stop.js';
import { WalkMap } from './WalkMap.js';

/** It comes when the book has buttons for the Floor. */
const Buttons = lazy(() => import('../../rules/parts/Buttons.js'));

interface Props {
  opened: OpenedList;
  /** What was scanned while the list was being opened. */
  early: RefObject<string[]>;
}

/** Scans of a walk, and buttons of the rule book, which are pressed for the order of the stop. */
function useTaking(session: { state: PickState; scan: (text: string) => void }, early: Props['early']) {
  const { state, scan } = session;
  const [typed, setTyped] = useState('');
  const [pressed, setPressed] = useState<Pressed | null>(null);
  const press = async (code: string) => {
    const order = (state.stops[state.at] ?? state.stops.at(-1))!.orderNo;
    const { pressFor } = await import('../../rules/press.js');
    setPressed(await pressFor(order, code));
  };
  const take = (text: string) => {
    setPressed(null);
    if (isButton(text)) void press(text);
    else scan(text);
  };
  useScanner(take, { typed: true, onTyping: setTyped });
  useEarly(early, take);
  return { typed, pressed, press };
}

export function Walk({ opened, early }: Props) {
  const session = useScanSession(
    opened.sessionId,
    walkPath(opened.sessionId),
    opened.state.listNo,
    opened.state,
    pickScan,
  );
  const { state, answer, scan } = session;
  const { typed, pressed, press } = useTaking(session, early);
  const [all, setAll] = useState(false);
  const list = useQuery(listQuery(state.listNo));
  const me = useMe();
  const other = list.data?.picker && list.data.picker !== me.name ? list.data.picker : null;
  useTitle(state.listNo);
  const done = pickDone(state);
  const waits = toteToBring(state) !== null || (state.heap && !state.trolley);
  const next = waits ? state.stops[state.at] : state.stops.find((s, i) => i > state.at && stopOpen(s) > 0);
  return (
    <main className={css.hand}>
      <Top state={state} all={all} show={() => setAll(!all)} />
      {other && (
        <p className={css.note} role="status">
          ▲ {other} has taken this list over. What you scan here counts all the same.
        </p>
      )}
      <How state={state} spots={new Map(list.data?.rows.map(r => [r.place, r]))} />
      {all ? (
        <Overview state={state} aside={opened.choices.doneAside} />
      ) : (
        <Now state={state} choices={opened.choices} scan={scan} />
      )}
      <Suspense>
        <div className={css.buttons}>
          <Buttons place="floor" size="medium" onPress={code => void press(code)} />
          <PauseBuying />
        </div>
      </Suspense>
      <div className={css.spacer} />
      {session.offline && (
        <OfflineNote words={`No network. ${count(session.waiting, 'scan')} kept, to be sent.`} />
      )}
      <AnswerBar
        where="hand"
        typed={typed}
        answer={
          (pressed && { ...pressed, next: pressed.cure || nextHint(state) }) ??
          answer ?? {
            says: done && !state.pause ? 'List complete.' : `${state.listNo} is open.`,
            next: nextHint(state),
            tone: 'info',
          }
        }
      />
      {next && !done && (
        <div className={css.then}>
          then <b className={textCss.code}>{next.placeCode}</b> {next.product.name}
        </div>
      )}
    </main>
  );
}

/** The list, what its goods lie on, and which stop this is. */
function Top({ state, all, show }: { state: PickState; all: boolean; show: () => void }) {
  return (
    <div className={css.head}>
      <h1 className={textCss.code}>{state.listNo}</h1>
      {state.trolley && (
        <span>
          on <b>{state.trolley.mark}</b>
        </span>
      )}
      <Link to="/floor">lists</Link>
      <Unsent />
      <CameraButton />
      <ButtonBase className={css.away} data-part="stop" aria-expanded={all} onClick={show}>
        <span>
          stop <b>{Math.min(state.at + 1, state.stops.length)}</b> of {state.stops.length} {all ? '▲' : '▼'}
        </span>
      </ButtonBase>
    </div>
  );
}

interface HowProps {
  state: PickState;
  spots: ReadonlyMap<string, { aisle: number | null; along: number | null }>;
}

/** How much is taken, and where on the floor this stop is. */
function How({ state, spots }: HowProps) {
  const taken = state.stops.reduce((n, s) => n + s.taken + s.missing, 0);
  const wanted = state.stops.reduce((n, s) => n + s.wanted, 0);
  const map = state.stops.map(s => ({
    aisle: spots.get(s.placeCode)?.aisle ?? null,
    along: spots.get(s.placeCode)?.along ?? null,
    done: stopOpen(s) === 0,
  }));
  return (
    <>
      <LinearProgress
        variant="determinate"
        color="success"
        value={(100 * taken) / Math.max(1, wanted)}
        aria-label={`${taken} of ${count(wanted, 'piece')}`}
      />
      {spots.size > 0 && (
        <div className={css.map}>
          <WalkMap stops={map} at={pickDone(state) ? null : state.at} height={92} />
        </div>
      )}
    </>
  );
}

/** What is to be done now: something to say first, something to bring, a stop, or nothing more. */
function Now({
  state,
  choices,
  scan,
}: Pick<ScanSession<PickState>, 'state' | 'scan'> & { choices: FloorChoices }) {
  if (state.pause) return <Pause state={state} pause={state.pause} scan={scan} />;
  const stop = state.stops[state.at];
  if (!stop || pickDone(state)) return <Finished state={state} after={choices.afterList} />;
  const bring = toteToBring(state);
  if (bring || (state.heap && !state.trolley)) return <Bring state={state} bring={bring} />;
  return <Stop stop={stop} state={state} choices={choices} scan={scan} />;
}
