import { BenchView, can, type ScanIn } from '@auk/contract';
import {
  lineAtHand,
  openNotes,
  type PackState,
  packClosed,
  packLineOpen,
  packScan,
  parseScan,
  parseSize,
} from '@auk/core';
import { useQueryClient } from '@tanstack/react-query';
import { type RefObject, useCallback, useEffect, useRef, useState } from 'react';
import { stripQuery } from '../../departures/api.js';
import { useMe } from '../../people/useMe.js';
import { AnswerBar } from '../../scans/AnswerBar.js';
import css from '../../scans/bench.module.css';
import { useScanner } from '../../scans/useScanner.js';
import { useScanSession } from '../../scans/useScanSession.js';
import { benchPath, giveCode, measure, offersQuery, readBench, reopenParcel } from '../api.js';
import { keepPhoto, useKeptPhotos } from '../keptPhotos.js';
import { answerOf } from '../packAnswer.js';
import { useLabelDesk } from '../useLabelDesk.js';
import { useMend } from '../useMend.js';
import { useScale } from '../useScale.js';
import { type BenchKey, Keys } from './Keys.js';
import { PackHead } from './PackHead.js';
import { PackLines } from './PackLines.js';
import { PackSide } from './PackSide.js';
import { PhotoTaker } from './PhotoTaker.js';

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

/** Alt and a number: what each does, and when it is there. */
function keysOf(state: PackState, may: { all: boolean; byHand: boolean; scale: boolean }): BenchKey[] {
  const asked = openNotes(state).length > 0 || state.asking !== null;
  const at = state.lines[lineAtHand(state)];
  const open = at !== undefined && packLineOpen(at) > 0;
  const left = state.lines.some(l => l.optional && packLineOpen(l) > 0);
  const keys: (BenchKey | false)[] = [
    { key: '1', name: 'undo', scans: 'AUK-UNDO' },
    { key: '2', name: state.choices.checkOnly ? 'close' : 'label', scans: 'AUK-LABEL' },
    { key: '3', name: 'set aside', scans: 'AUK-ASIDE' },
    asked && { key: '4', name: 'yes', scans: 'AUK-YES' },
    { key: '5', name: 'next box', scans: 'AUK-NEXTBOX' },
    left && { key: '6', name: 'leave out', scans: 'AUK-WITHOUT' },
    may.all && open && { key: '7', name: 'all the rest', scans: 'AUK-ALL' },
    may.byHand &&
      open && {
        key: '8',
        name: 'press one',
        scans: at.product.codes[0]?.code ?? at.product.sku,
        by: 'pressed',
      },
    { key: '9', name: 'photo', scans: 'AUK-PHOTO' },
    may.scale && { key: '0', name: 'weigh', scans: 'AUK-WEIGH' },
  ];
  return keys.filter(k => k !== false);
}

/** One order at the bench: what is in, what is missing, the answer to the last scan as the largest sentence. */
export function PackBoard({ view: opened, open, early, leave, scaleOf, done }: Props) {
  const client = useQueryClient();
  const me = useMe();
  const [view, setView] = useState(opened);
  const refresh = useCallback(async () => {
    // Without a network what is known stays on the screen; it is read anew with the next judgement.
    setView(await readBench(opened.sessionId).catch(() => view));
  }, [opened.sessionId, view]);
  const session = useScanSession(
    opened.sessionId,
    `${benchPath(opened.sessionId)}/scans`,
    opened.state.orderNo,
    opened.state,
    packScan,
    answer => {
      if (answer.kind === 'set') void refresh();
    },
  );
  const { state, scan } = session;
  const closed = packClosed(state);
  const parcel = view.parcels.find(p => p.closed && p.label?.state !== 'bought') ?? view.parcels.at(-1)!;
  const desk = useLabelDesk(
    parcel.no,
    closed && parcel.closed && !state.choices.checkOnly,
    parcel.label,
    () => void refresh().then(() => client.invalidateQueries(stripQuery)),
  );
  const finished =
    closed && view.parcels.every(p => p.closed && (state.choices.checkOnly || p.label?.state === 'bought'));
  const wasFinished = useRef(finished);
  useEffect(() => {
    // An order that was done before it was opened stays, to be looked at.
    if (finished && !wasFinished.current) done();
    wasFinished.current = finished;
  }, [finished, done]);
  const [typed, setTyped] = useState('');
  /** 0 while no photo is being taken; scanned again it counts on. */
  const [photo, setPhoto] = useState(0);
  const [lost, setLost] = useState(false);
  const photosWaiting = useKeptPhotos();

  const { mend, trouble } = useMend(opened.state.orderNo, early, leave, open);
  const reopen = useCallback(async () => {
    await reopenParcel(parcel.no);
    // Another box or weight has other prices.
    client.removeQueries(offersQuery(parcel.no));
  }, [client, parcel.no]);
  /** What was scanned last, so that a code that nobody knows can be given to the product at hand. */
  const scanned = useRef('');
  const hand = state.lines[lineAtHand(state)];
  const gives =
    hand && session.answer?.says.startsWith('Unknown code') && can(me, 'codes.give') ? hand.product : null;
  const scale = useScale(scaleOf, state, scan);
  const take = useCallback(
    (text: string, by?: ScanIn['by']) => {
      scanned.current = text;
      const code = text.trim().toUpperCase();
      if (code === 'AUK-ASIDE') return leave();
      if (code === 'AUK-WEIGH') return scale.weigh();
      if (code === 'AUK-PHOTO') return setPhoto(n => n + 1);
      const unsized = state.lines.find(l => l.piece && !l.piece.size);
      const size = unsized && !state.asking ? parseSize(text) : null;
      if (unsized && size?.ok) return mend(() => measure(unsized.product.sku, size.value));
      if (!closed) {
        const another = OPENS.has(kindOf(text)) && code !== state.orderNo;
        return another && !begun(state) ? open(text) : scan(text, by);
      }
      if (code === 'AUK-REOPEN') return mend(reopen);
      if (code === 'AUK-LABEL') return desk.buyFirst();
      const over = desk.label?.state === 'bought' || state.choices.checkOnly;
      return OPENS.has(kindOf(text)) || (over && kindOf(text) !== 'nothing') ? open(text) : scan(text);
    },
    [closed, desk, leave, mend, open, reopen, scale, scan, state],
  );
  useScanner(take, { typed: true, onTyping: setTyped });
  const newest = useRef(take);
  newest.current = take;
  useEffect(() => {
    for (const text of early.current.splice(0)) newest.current(text);
  }, [early]);
  const keys = keysOf(state, {
    all: can(me, 'pack.all'),
    byHand: can(me, 'pack.by-hand'),
    scale: scaleOf !== null,
  });
  const newestGives = useRef(gives);
  newestGives.current = gives;
  const newestKeys = useRef(keys);
  newestKeys.current = keys;
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.key === 'F8' && newestGives.current) {
        event.preventDefault();
        const { sku } = newestGives.current;
        const code = scanned.current;
        mend(() => giveCode(sku, code), code);
        return;
      }
      if (!event.altKey || !/^\d$/.test(event.key)) return;
      event.preventDefault();
      // Once all is closed a number buys a label and does nothing else: pressed twice, it undoes nothing.
      if (closed) {
        if (!desk.offers) desk.askAgain();
        else if (desk.label?.state !== 'bought') desk.buy(Number(event.key) - 1);
        return;
      }
      const key = newestKeys.current.find(k => k.key === event.key);
      if (key) newest.current(key.scans, key.by);
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [desk, closed, mend]);

  const told = answerOf(session.answer, state, desk, session.offline);
  const noRoom = lost && NO_ROOM;
  const broken = trouble && { says: trouble.says, next: trouble.cure, tone: 'wrong' as const, times: 1 };
  const saidOfScale = scale.trouble &&
    !closed && { says: scale.trouble.says, next: scale.trouble.cure, tone: 'wrong' as const, times: 1 };
  const offered = gives
    ? { ...told, next: `F8 gives this code to ${gives.name}, when it is that. Else put it aside.` }
    : told;
  const answer = broken || noRoom || saidOfScale || offered;
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
          photos={photosWaiting}
        />
      </div>
      {photo > 0 && (
        <PhotoTaker
          now={photo}
          taken={picture => {
            setPhoto(0);
            setLost(false);
            keepPhoto(opened.sessionId, picture).then(
              () => scan('AUK-PHOTO'),
              () => setLost(true),
            );
          }}
          leave={() => setPhoto(0)}
        />
      )}
      <AnswerBar answer={answer} where="foot" typed={typed}>
        <Keys
          keys={closed ? null : keys}
          take={take}
          leave={leave}
          reopens={can(me, 'parcels.open') && parcel.label === null}
        />
      </AnswerBar>
    </div>
  );
}

/** A photo that could not be kept is not counted. */
const NO_ROOM = {
  says: 'This device has no room for the photo.',
  next: 'Make room on it, or take another device, and take the photo again.',
  tone: 'wrong' as const,
  times: 1,
};
/** Codes that open another order. */
const OPENS = new Set(['order', 'tote', 'parcel', 'list']);

function kindOf(text: string): string {
  const parsed = parseScan(text, 2000);
  if (!parsed.ok) return 'nothing';
  return parsed.value.type === 'own' ? parsed.value.kind : parsed.value.type;
}

/** True when something is in or asked: another slip must not take the order away. */
const begun = (state: PackState): boolean =>
  state.asking !== null || state.lines.some(l => l.packed > 0 || l.kitParts.some(k => k.scanned > 0));
