import {
  Corrected,
  CountProposal,
  CountSession,
  LedgerPage as Ledger,
  type Page,
  pageOf,
  ServedAgain,
  StockRow,
  StockSettings,
} from '@auk/contract';
import { infiniteQueryOptions, keepPreviousData, queryOptions } from '@tanstack/react-query';
import { get, post, send } from '../api.js';
import { heldSession } from '../held.js';
import { deviceId } from '../scans/device.js';

/** What lies where, of what a question asks for, a page at a time. */
export const stockQuery = (question: string) =>
  infiniteQueryOptions({
    queryKey: ['stock', question],
    placeholderData: keepPreviousData,
    queryFn: ({ pageParam }) =>
      get(pageOf(StockRow), `stock?${question}${pageParam ? `&after=${encodeURIComponent(pageParam)}` : ''}`),
    initialPageParam: '',
    getNextPageParam: (last: Page<StockRow>) => last.next,
  });

/** Every move of a product, the newest first, and its balance by day. */
export const ledgerQuery = (sku: string) =>
  infiniteQueryOptions({
    queryKey: ['ledger', sku],
    queryFn: ({ pageParam }) =>
      get(Ledger, `stock/ledger/${encodeURIComponent(sku)}${pageParam ? `?before=${pageParam}` : ''}`),
    initialPageParam: 0,
    getNextPageParam: (last: Ledger) => last.next,
  });

export const stockSettingsQuery = queryOptions({
  queryKey: ['stock', 'settings'],
  queryFn: () => get(StockSettings, 'stock/settings'),
});
export const setReserveMode = (reserveMode: string) => send('stock/settings', { reserveMode });
/** Gives what is scarce out anew, by urgency. */
export const serveAgain = () => post(ServedAgain, 'stock/serve-again');

export const moveStock = (input: object) => post(Corrected, 'stock/moves', input);
export const writeOff = (input: object) => post(Corrected, 'stock/write-offs', input);

export const countsQuery = queryOptions({
  queryKey: ['stock', 'counts'],
  queryFn: () => get(CountProposal.array(), 'stock/counts/proposed'),
});

/** Begins the count of a place under an id, or goes on with it. */
export const countQuery = (id: string, place: string) =>
  queryOptions({
    queryKey: ['count', id],
    queryFn: () =>
      heldSession(
        `count ${id}`,
        () => post(CountSession, 'stock/counts/sessions', { id, place, device: deviceId() }),
        begun => begun.id,
      ),
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
/** Where the scans of a count go. */
export const countPath = (id: string): string => `stock/counts/sessions/${id}/scans`;
export const bookCount = (input: object) => post(Corrected, 'stock/counts', input);
