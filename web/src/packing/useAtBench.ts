import { type BenchParcel, type BenchView } from '@auk/contract';
import { type PackState, packClosed, packScan } from '@auk/core';
import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import { stripQuery } from '../departures/api.js';
import { useHeard } from '../live.js';
import { useScanSession } from '../scans/useScanSession.js';
import { benchPath, readBench } from './api.js';
import { useLabelDesk } from './useLabelDesk.js';

/** True when its label is bought, and right for it. */
const hasLabel = (p: BenchParcel): boolean => p.label?.state === 'bought' && p.misfit === null;

/** True where the bench buys no label: the order is only checked, or is a shipment whose labels come with its booking. */
export const needsNoLabel = (view: BenchView, state: PackState): boolean =>
  state.choices.checkOnly || !!view.inbound;

/** An order at the bench as it stands: its session of scans, its parcels, and the label of the one at hand, bought `atOnce` where that was pressed. */
export function useAtBench(opened: BenchView, done: () => void, atOnce: boolean) {
  const { sessionId } = opened;
  const client = useQueryClient();
  const [view, setView] = useState(opened);
  // Without a network what is known stays on the screen; it is read anew with the next judgement.
  const refresh = useCallback(() => readBench(sessionId).then(setView, () => undefined), [sessionId]);
  const session = useScanSession(
    sessionId,
    `${benchPath(sessionId)}/scans`,
    opened.state.orderNo,
    opened.state,
    packScan,
    answer => {
      if (answer.kind === 'set') void refresh();
    },
  );
  const { state } = session;
  const closed = packClosed(state);
  const parcel = view.parcels.find(p => p.closed && !hasLabel(p)) ?? view.parcels.at(-1)!;
  const desk = useLabelDesk(
    parcel,
    closed && parcel.closed && !needsNoLabel(view, state),
    () => void refresh().then(() => client.invalidateQueries(stripQuery)),
    atOnce,
  );
  useFinished(view, state, done);
  return { view, refresh, session, state, closed, parcel, desk };
}

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
export function useChangedElsewhere(
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
