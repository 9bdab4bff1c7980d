import { type BenchParcel, BenchView, can, type ScanIn } from '@auk/contract';
import { lineAtHand, type PackState, packClosed, packScan, parseScan, parseSize } from '@auk/core';
import { useQueryClient } from '@tanstack/react-query';
import { lazy, type RefObject, Suspense, useCallback, useEffect, useRef, useState } from 'react';
import { stripQuery } from '../../departures/api.js';
import { useHeard } from '../../live.js';
import { editOrder } from '../../parts/api.js';
import { useMe } from '../../people/useMe.js';
import { isButton } from '../../rules/target.js';
import { AnswerBar } from '../../scans/AnswerBar.js';
import css from '../../scans/bench.module.css';
import { playTone } from '../../scans/sounds.js';
import { useEarly } from '../../scans/useOpening.js';
import { useScanner } from '../../scans/useScanner.js';
import { useScanSession } from '../../scans/useScanSession.js';
import { benchPath, giveCode, measure, offersQuery, readBench, reopenParcel } from '../api.js';
import { keysOf } from '../benchKeys.js';
import { keepPhoto, useKeptPhotos } from '../keptPhotos.js';
import { answerOf, type Trouble } from '../packAnswer.js';
import ownCss from '../packing.module.css';
import { useBenchKeys } from '../useBenchKeys.js';
import { useLabelDesk } from '../useLabelDesk.js';
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
  /** All of it is packed and has its labels. */
  done: () => void;
}

/** One order at the bench: what is in, what is missing, the answer to the last scan as the largest sentence. */
export function PackBoard({ view: opened, open, early, leave, scaleOf, done }: Props) {
  const { sessionId } = opened;
  const client = useQueryClient();
  const me = useMe();
  const [view, setView] = useState(opened);
  // Without a network what is known stays on the screen; it is read anew with the next judgement.
  const refresh = useCallback(() => readBench(sessionId).then(setView, () => undefined), [sessionId]);
  const {
    state,
    scan,
    answer: last,
    waiting,
    offline,
  } = useScanSession(
    sessionId,
    `${benchPath(sessionId)}/scans`,
    opened.state.orderNo,
    opened.state,
    packScan,
    answer => {
      if (answer.kind === 'set') void refresh();
    },
  );
  const closed = packClosed(state);
  const parcel = view.parcels.find(p => p.closed && !hasLabel(p)) ?? view.parcels.at(-1)!;
  const desk = useLabelDesk(
    parcel,
    closed && parcel.closed && !needsNoLabel(view, state),
    () => void refresh().then(() => client.invalidateQueries(stripQuery)),
  );
  useFinished(view, state, done);

  const { news } = opened;
  const [trouble, setTrouble] = useState<Trouble | null>(
    news && { says: news.says, cure: news.next, tone: 'attention' },
  );
  const fail = useCallback((t: Trouble) => {
    setTrouble(t);
    playTone('wrong');
  }, []);
  const taking = useRef<(text: string) => void>(() => {});
  const { mend, waits } = useMend(opened.state.orderNo, early, leave, open, fail, taking);
  const again = useCallback(() => mend(() => Promise.resolve()), [mend]);
  useChangedElsewhere(opened.orderId, refresh, view.changed, again);
  const [changing, setChanging] = useState(false);
  const [voiding, setVoiding] = useState(false);
  const voids = closed && can(me, 'labels.void') && desk.label?.state === 'bought';
  const asks = voids && desk.misfit !== null;
  useEffect(() => setVoiding(asks), [asks]);
  const weigh = useScale(scaleOf, state, scan, fail);
  const may = {
    all: can(me, 'pack.all'),
    byHand: can(me, 'pack.by-hand'),
    change: can(me, 'orders.change'),
    scale: scaleOf !== null,
  };
  const photosWaiting = useKeptPhotos();
  const [typed, setTyped] = useState('');
  /** 0 while no photo is being taken; scanned again it counts on. */
  const [photo, setPhoto] = useState(0);
  const keep = (picture: Blob) => {
    setPhoto(0);
    // It counts when this device has kept it.
    keepPhoto(sessionId, me.id, picture).then(
      () => scan('AUK-PHOTO'),
      () => fail(NO_ROOM),
    );
  };
  const reopen = async () => {
    await reopenParcel(parcel.no);
    // Another box or weight has other prices.
    client.removeQueries(offersQuery(parcel.no));
  };

  /** A button of the rule book: its answer stands, and what it changed of lines and boxes is told when the order is opened again. */
  const press = async (code: string) => {
    const { pressFor } = await import('../../rules/press.js');
    const { tone, ...words } = await pressFor(opened.orderId, code);
    setTrouble({ ...words, ...(tone === 'right' && { tone }) });
    await refresh();
  };

  /** What was scanned last, so that a code that nobody knows can be given to the product at hand. */
  const scanned = useRef('');
  const take = (text: string, by?: ScanIn['by']) => {
    if (waits(text)) return;
    scanned.current = text;
    setTrouble(null);
    const code = text.trim().toUpperCase();
    if (code === 'AUK-ASIDE') return leave();
    if (isButton(code)) return press(code);
    if (closed) {
      if (code === 'AUK-REOPEN') return mend(reopen);
      if (code === 'AUK-VOID') return voids ? setVoiding(true) : fail(NOTHING_TO_VOID);
      if (code === 'AUK-LABEL') return desk.buyFirst();
      const over = (desk.label?.state === 'bought' && !desk.misfit) || needsNoLabel(view, state);
      return opensAnother(text, over) ? open(text) : scan(text);
    }
    if (code === 'AUK-CHANGE') return may.change ? setChanging(true) : fail(NO_RIGHT);
    if (code === 'AUK-WEIGH') return weigh();
    if (code === 'AUK-PHOTO') return setPhoto(n => n + 1);
    const unsized = sizeWanted(state);
    const size = unsized === null ? null : parseSize(text);
    if (unsized !== null && size?.ok) return mend(() => measure(unsized, size.value));
    if (code !== state.orderNo && !begun(state) && opensAnother(text, false)) return open(text);
    scan(text, by);
  };
  taking.current = take;
  useScanner(take, { typed: true, onTyping: setTyped });
  useEarly(early, take);

  const hand = state.lines[lineAtHand(state)]?.product;
  const gives = hand && last?.says.startsWith('Unknown code') && can(me, 'codes.give') ? hand : null;
  const keys = closed ? null : keysOf(state, may);
  useBenchKeys({
    keys,
    desk,
    take,
    give: gives && (() => mend(() => giveCode(gives.sku, scanned.current), scanned.current)),
  });

  const said = answerOf(last, state, desk, offline, trouble, view.inbound);
  const answer =
    gives && !trouble
      ? { ...said, next: `F8 gives this code to ${gives.name}, when it is that. Else put it aside.` }
      : said;
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
          waiting={waiting}
          offline={offline}
          photos={photosWaiting}
          refresh={refresh}
        />
      </div>
      <Suspense>
        {voiding && desk.label && (
          <VoidLabel
            parcelNo={parcel.no}
            label={desk.label}
            why={desk.misfit}
            leave={() => setVoiding(false)}
            done={() => {
              setVoiding(false);
              desk.givenBack();
            }}
          />
        )}
        {photo > 0 && <PhotoTaker now={photo} taken={keep} leave={() => setPhoto(0)} />}
        {changing && (
          <ChangeOrder
            orderId={opened.orderId}
            state={state}
            leave={() => setChanging(false)}
            save={(version, lines) => {
              setChanging(false);
              mend(() => editOrder(opened.orderId, { version, lines, undo: true }));
            }}
          />
        )}
      </Suspense>
      <AnswerBar answer={answer} where="foot" typed={typed}>
        <div className={ownCss.acts}>
          <Keys
            keys={keys}
            take={take}
            leave={leave}
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

/** True when its label is bought, and right for it. */
const hasLabel = (p: BenchParcel): boolean => p.label?.state === 'bought' && p.misfit === null;

/** True where the bench buys no label: the order is only checked, or is a shipment whose labels come with its booking. */
const needsNoLabel = (view: BenchView, state: PackState): boolean =>
  state.choices.checkOnly || !!view.inbound;

/** Tells once that an order is done. One that was done before it was opened stays, to be looked at. */
function useFinished(view: BenchView, state: PackState, done: () => void): void {
  const finished =
    packClosed(state) && view.parcels.every(p => p.closed && (needsNoLabel(view, state) || hasLabel(p)));
  const before = useRef(finished);
  useEffect(() => {
    if (finished && !before.current) done();
    before.current = finished;
  }, [finished, done]);
}

/** Hears when the order is changed elsewhere, and opens it again when it says something else than is known here. */
function useChangedElsewhere(
  orderId: string,
  refresh: () => Promise<void>,
  changed: boolean,
  again: () => void,
): void {
  useHeard('orders', orderId, () => void refresh());
  useEffect(() => {
    if (changed) again();
  }, [changed, again]);
}

const NO_RIGHT: Trouble = {
  says: 'You may not change what the order wants.',
  cure: 'Ask the lead, who can do it here or give you that right.',
};
const NOTHING_TO_VOID: Trouble = {
  says: 'There is no bought label here that you may void.',
  cure: 'Ask the lead, who can do it here or give you that right.',
};
/** A photo that could not be kept is not counted. */
const NO_ROOM: Trouble = {
  says: 'This device has no room for the photo.',
  cure: 'Make room on it, or take another device, and take the photo again.',
};
/** Codes that open another order. */
const OPENS = new Set(['order', 'tote', 'parcel', 'list']);

/** Whether a scan opens another order; when this one is over, everything that can be read does. */
function opensAnother(text: string, over: boolean): boolean {
  const parsed = parseScan(text, 2000);
  if (!parsed.ok) return false;
  return over || (parsed.value.type === 'own' && OPENS.has(parsed.value.kind));
}

/** True when something is in or asked: another slip must not take the order away. */
const begun = (state: PackState): boolean =>
  state.asking !== null || state.lines.some(l => l.packed > 0 || l.kitParts.some(k => k.scanned > 0));

/** The SKU whose size is wanted: of the line at hand, else of the first without one. While something is asked, a text is its answer. */
function sizeWanted(state: PackState): string | null {
  const unsized = state.lines.filter(l => l.piece && !l.piece.size);
  const hand = state.lines[lineAtHand(state)];
  const line = unsized.find(l => l === hand) ?? unsized[0];
  return state.asking === null && line ? line.product.sku : null;
}
