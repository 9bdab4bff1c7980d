import { fromCore, judgedOf } from '@auk/contract';
import { useSyncExternalStore } from 'react';
import { post } from '../api.js';
import { holdState } from '../held.js';
import { Outbox, type OutboxView } from './outbox.js';

/** A server that has not answered by then is asked again; the scan's id makes that safe. */
const TIMEOUT_MS = 10_000;
const JUDGED = judgedOf(fromCore<unknown>());

/** The outbox of this device. */
export const outbox = new Outbox((path, scan) => post(JUDGED, path, scan, TIMEOUT_MS), undefined, holdState);

/** What is on its way from this device, and why it is not there yet. */
export const useOutbox = (): OutboxView => useSyncExternalStore(outbox.watch, outbox.look);
