import { ArrivedRow, BenchView, type BuyLabel, LabelView, OffersView } from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { get, post } from '../api.js';
import { deviceId } from '../scans/device.js';

/** Opens at this bench what a code belongs to: a slip, a tote or a parcel. */
export const openAtBench = (code: string) => post(BenchView, 'packing/open', { code, device: deviceId() });

/** What stands at staging places for the benches. */
export const arrivedQuery = queryOptions({
  queryKey: ['arrived'],
  queryFn: () => get(ArrivedRow.array(), 'packing/arrived'),
});

export const benchPath = (sessionId: string): string => `packing/sessions/${sessionId}`;
export const readBench = (sessionId: string) => get(BenchView, benchPath(sessionId));

/** What each service would cost for a closed parcel; prices hold for a minute. */
export const offersQuery = (parcelNo: string) =>
  queryOptions({
    queryKey: ['offers', parcelNo],
    queryFn: () => get(OffersView, `parcels/${parcelNo}/offers`),
    staleTime: 60_000,
  });

export const buyLabel = (parcelNo: string, wish: BuyLabel) =>
  post(LabelView, `parcels/${parcelNo}/label`, wish);
