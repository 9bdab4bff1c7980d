import { BenchView, can, type ScanIn } from '@auk/contract';
import { canonicalCode, lineAtHand } from '@auk/core';
import { useQueryClient } from '@tanstack/react-query';
import { lazy, type RefObject, Suspense, useCallback, useEffect, useRef, useState } from 'react';
import { editOrder } from '../../parts/api.js';
import { useMe } from '../../people/useMe.js';
import { AnswerBar } from '../../scans/AnswerBar.js';
import css from '../../scans/bench.module.css';
import { playTone } from '../../scans/sounds.js';
import { useEarly } from '../../scans/useOpening.js';
import { useScanner } from '../../scans/useScanner.js';
import { giveCode, measure, offersQuery, reopenParcel } from '../api.js';
import { keysOf } from '../benchKeys.js';
import { type BenchAct, benchActOf } from '../benchTaking.js';
import { keepPhoto, useKeptPhotos } from '../keptPhotos.js';
import { answerOf, type Trouble } from '../packAnswer.js';
import ownCss from '../packing.module.css';
import { needsNoLabel, useAtBench, useChangedElsewhere } from '../useAtBench.js';
import { useBenchKeys } from '../useBenchKeys.js';
import { useMend } from '../useMend.js';
import { useScale } from '../useScale.js';
import { Keys } from './Keys.js';
import { PackHead } from './PackHead.js';
import { PackLines } from './PackLines.js';
import { PackSide } from './PackSide.js';

// What is seldom wanted comes when it is.
const PhotoTaker = lazy(() => import('./PhotoTaker.js'));
const ChangeOrder = lazy(() => import('./ChangeOrder.js'));
const Buttons = lazy(() => import('../../rules/parts/Buttons.js'));
const VoidLabel = lazy(() => import('./VoidLabel.js'));

interface Props {
  view: BenchView;
  open: (code: string) => void;
  /** What was scanned while the order was being opened. */
  early: RefObject<string[]>;
  leave: () => void;
  /** The bench with a scale that this device stands at; null where there is none. */
  scaleOf: string | null;
  /** The press that closes a parcel buys its first service, too. */
  takesFirst: boolean;
  /** All of it is packed and has its labels. */
  done: () => void;
}

/** One order at the bench: what is in, what is missing, the answer to the last scan as the largest sentence. */
export function PackBoard(props: Props) {
  const board = usePackBoard(props);
  const { view, state, desk, parcel, voids, session, refresh, take, keys, typed, answer } = board;
  const me = useMe();
  const photos = useKeptPhotos();
  return (
    <div className={`${css.edge} ${css[answer.tone]}`}>
      <PackHead view={view} state={state} />
      <div className={css.body}>
        <PackLines state={state} />
        <PackSide
          state={state}
          view={view}
          parcelNo={parcel.no}
          desk={desk}
          waiting={session.waiting}
          offline={session.offline}
          photos={photos}
          refresh={refresh}
        />
      </div>
      <Seldom board={board} />
      <AnswerBar answer={answer} where="foot" typed={typed}>
        <div className={ownCss.acts}>
          <Keys
            keys={keys}
            take={take}
            leave={props.leave}
            reopens={can(me, 'parcels.open') && desk.label?.state !== 'bought' && parcel.label === null}
            voids={voids}
          />
          <Suspense>
            <div className={ownCss.buttons}>
              <Buttons place="bench" onPress={take} />
            </div>
          </Suspense>
        </div>
      </AnswerBar>
    </div>
  );
}

/** What opens over the board when it is asked for: giving a label back, a photo, another wish of the buyer. */
function Seldom({ board }: { board: ReturnType<typeof usePackBoard> }) {
  const { view, state, desk, parcel, mend, over, session, fail } = board;
  const me = useMe();
  const keep = (picture: Blob) => {
    over.setPhoto(0);
    // It counts when this device has kept it.
    keepPhoto(view.sessionId, me.id, picture).then(
      () => session.scan('AUK-PHOTO'),
      () => fail(NO_ROOM),
    );
  };
  return (
    <Suspense>
      {over.voiding && desk.label && (
        <VoidLabel
          parcelNo={parcel.no}
          label={desk.label}
          why={desk.misfit}
          leave={() => over.setVoiding(false)}
          done={() => {
            over.setVoiding(false);
            desk.givenBack();
          }}
        />
      )}
      {over.photo > 0 && <PhotoTaker now={over.photo} taken={keep} leave={() => over.setPhoto(0)} />}
      {over.changing && (
        <ChangeOrder
          orderId={view.orderId}
          state={state}
          leave={() => over.setChanging(false)}
          save={(version, lines) => {
            over.setChanging(false);
            mend(() => editOrder(view.orderId, { version, lines, undo: true }));
          }}
        />
      )}
    </Suspense>
  );
}

/** What lies over the board. */
function useOver(asks: boolean) {
  const [changing, setChanging] = useState(false);
  const [voiding, setVoiding] = useState(false);
  /** 0 while no photo is being taken; scanned again it counts on. */
  const [photo, setPhoto] = useState(0);
  useEffect(() => setVoiding(asks), [asks]);
  const show = (what: 'change' | 'void' | 'photo') => {
    if (what === 'change') setChanging(true);
    else if (what === 'void') setVoiding(true);
    else setPhoto(n => n + 1);
  };
  return { changing, setChanging, voiding, setVoiding, photo, setPhoto, show };
}

/** What a person may do to the order at the bench. */
function useMayAtBench(scale: boolean) {
  const me = useMe();
  return {
    all: can(me, 'pack.all'),
    byHand: can(me, 'pack.by-hand'),
    change: can(me, 'orders.change'),
    scale,
  };
}

/** Everything that happens at the bench with one order: what is scanned, pressed, typed, weighed and mended. */
function usePackBoard({ view: opened, open, early, leave, scaleOf, takesFirst, done }: Props) {
  const client = useQueryClient();
  const me = useMe();
  const [atOnce, setAtOnce] = useState(false);
  const at = useAtBench(opened, done, atOnce);
  const { view, refresh, session, state, closed, parcel, desk } = at;
  const { trouble, setTrouble, fail } = useTrouble(opened.news);
  const taking = useRef<(text: string) => void>(() => {});
  const { mend, waits } = useMend(opened.state.orderNo, early, leave, open, fail, taking);
  const again = useCallback(() => mend(() => Promise.resolve()), [mend]);
  useChangedElsewhere(opened.orderId, refresh, view.changed, again);
  const voids = closed && can(me, 'labels.void') && desk.label?.state === 'bought';
  const over = useOver(voids && desk.misfit !== null);
  const weigh = useScale(scaleOf, state, session.scan, fail);
  const may = useMayAtBench(scaleOf !== null);
  const [typed, setTyped] = useState('');
  /** A button of the rule book: its answer stands, and what it changed of lines and boxes is told when the order is opened again. */
  const press = async (code: string) => {
    const { pressFor } = await import('../../rules/press.js');
    const { tone, ...words } = await pressFor(opened.orderId, code);
    setTrouble({ ...words, ...(tone === 'right' && { tone }) });
    await refresh();
  };
  const reopen = async () => {
    await reopenParcel(parcel.no);
    // Another box or weight has other prices.
    client.removeQueries(offersQuery(parcel.no));
  };
  const ended = (desk.label?.state === 'bought' && !desk.misfit) || needsNoLabel(view, state);
  const hand = { state, closed, over: ended, mayChange: may.change, mayVoid: voids };
  const perform = (to: BenchAct, text: string, by: ScanIn['by']): void => {
    if (to.act === 'scan') session.scan(text, by);
    else if (to.act === 'open') open(text);
    else if (to.act === 'leave') leave();
    else if (to.act === 'press') void press(to.code);
    else if (to.act === 'measure') mend(() => measure(to.sku, to.size));
    else if (to.act === 'fail') fail(to.trouble);
    else if (to.act === 'reopen') mend(reopen);
    else if (to.act === 'buy first') desk.buyFirst();
    else if (to.act === 'weigh') weigh();
    else over.show(to.act);
  };
  /** What was scanned last, so that a code that nobody knows can be given to the product at hand. */
  const scanned = useRef('');
  const take = (text: string, by?: ScanIn['by']) => {
    if (waits(text)) return;
    scanned.current = text;
    if (!closed) setAtOnce(takesFirst && canonicalCode(text) === 'AUK-LABEL');
    setTrouble(null);
    perform(benchActOf(text, hand), text, by);
  };
  taking.current = take;
  useScanner(take, { typed: true, onTyping: setTyped });
  useEarly(early, take);
  const unknown = session.answer?.says.startsWith('Unknown code') && can(me, 'codes.give');
  const gives = (unknown && state.lines[lineAtHand(state)]?.product) || null;
  const keys = closed ? null : keysOf(state, may);
  const give = gives && (() => mend(() => giveCode(gives.sku, scanned.current), scanned.current));
  useBenchKeys({ keys, desk, take, give });
  const said = answerOf(session.answer, state, desk, session.offline, trouble, view.inbound);
  const offered = `F8 gives this code to ${gives?.name}, when it is that. Else put it aside.`;
  const answer = gives && !trouble ? { ...said, next: offered } : said;
  return { ...at, voids, over, take, keys, typed, answer, mend, fail };
}

/** Something beside the scans that could not be done, said aloud; at first what the house has to say of the order. */
function useTrouble(news: BenchView['news']) {
  const [trouble, setTrouble] = useState<Trouble | null>(
    news && { says: news.says, cure: news.next, tone: 'attention' },
  );
  const fail = useCallback((t: Trouble) => {
    setTrouble(t);
    playTone('wrong');
  }, []);
  return { trouble, setTrouble, fail };
}

/** A photo that could not be kept is not counted. */
const NO_ROOM: Trouble = {
  says: 'This device has no room for the photo.',
  cure: 'Make room on it, or take another device, and take the photo again.',
};
