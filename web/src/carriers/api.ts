import {
  CarrierKind,
  CarrierView,
  ClosedDay,
  type CollectionIn,
  type ConnectCarrier,
  ExchangeRateView,
  SheetTaken,
} from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { get, post, send } from '../api.js';

export const carriersQuery = queryOptions({
  queryKey: ['carriers'],
  queryFn: () => get(CarrierView.array(), 'carriers'),
});

/** The ways in which carriers speak. */
export const carrierKindsQuery = queryOptions({
  queryKey: ['carriers', 'kinds'],
  queryFn: () => get(CarrierKind.array(), 'carriers/kinds'),
});

export const closedDaysQuery = queryOptions({
  queryKey: ['carriers', 'closed'],
  queryFn: () => get(ClosedDay.array(), 'carriers/closed'),
});

/** Public holidays that are not days off yet. */
export const proposedDaysQuery = queryOptions({
  queryKey: ['carriers', 'proposed'],
  queryFn: () => get(ClosedDay.array(), 'carriers/closed/proposed'),
});

export const exchangeQuery = queryOptions({
  queryKey: ['carriers', 'exchange'],
  queryFn: () => get(ExchangeRateView.array(), 'house/exchange'),
});

export const connectCarrier = (wish: ConnectCarrier) => send('carriers/connect', wish);
export const addAccount = (code: string, account: object) => send(`carriers/${code}/accounts`, account);
export const serveService = (code: string, service: string, inUse: boolean) =>
  send(`carriers/${code}/services/${encodeURIComponent(service)}`, { inUse });
export const setClosedDays = (days: ClosedDay[]) => send('carriers/closed', { days });
export const enterRate = (rate: ExchangeRateView) => send('house/exchange', rate);
export const takeSheet = (accountId: string, file: Blob) =>
  post(SheetTaken, `carriers/accounts/${accountId}/sheets`, file);
export const sheetPath = (id: string): string => `/api/v1/carriers/sheets/${id}.csv`;

/** Adds a collection, or changes the one with this id. */
export const saveCollection = (carrier: string, id: string | null, wish: CollectionIn) =>
  send(`departures/collections/${carrier}${id ? `/${id}` : ''}`, wish);
export const removeCollection = (carrier: string, id: string) =>
  send(`departures/collections/${carrier}/${id}/remove`);
