import {
  BatchView,
  type BuyLabel,
  ClaimView,
  type ElsewhereLabel,
  LabelView,
  MadeId,
  OffersView,
  ParcelListRow,
  ParcelView,
} from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { get, post, send } from '../api.js';

/** The list of parcels; the one that somebody comes for, `look`, is the first of it. */
export const parcelsQuery = (look: string | null) =>
  queryOptions({
    queryKey: ['parcels', 'list', look],
    queryFn: () => get(ParcelListRow.array(), look ? `parcels?look=${encodeURIComponent(look)}` : 'parcels'),
  });

export const parcelQuery = (no: string) =>
  queryOptions({ queryKey: ['parcels', no], queryFn: () => get(ParcelView, `parcels/${no}`) });

export const claimsQuery = queryOptions({
  queryKey: ['claims'],
  queryFn: () => get(ClaimView.array(), 'claims'),
});

const WORKING_MS = 1_000;

/** A batch of labels; while it is worked on it is asked for again and again. */
export const batchQuery = (id: string) =>
  queryOptions({
    queryKey: ['parcels', 'batch', id],
    queryFn: () => get(BatchView, `labels/batches/${id}`),
    refetchInterval: query =>
      ['pricing', 'buying'].includes(query.state.data?.state ?? '') ? WORKING_MS : false,
  });

export const beginBatch = (parcels: string[]) => post(MadeId, 'labels/batches', { parcels });
export const buyBatch = (id: string, minor: number) => post(BatchView, `labels/batches/${id}/buy`, { minor });
export const stopBatch = (id: string) => post(BatchView, `labels/batches/${id}/stop`);
/** Services for the way back of a parcel; carriers are asked. */
export const returnOffersQuery = (no: string) =>
  queryOptions({
    queryKey: ['offers', 'back', no],
    queryFn: () => get(OffersView, `parcels/${no}/return-offers`),
  });
export const buyReturn = (no: string, wish: BuyLabel) => post(LabelView, `parcels/${no}/return-label`, wish);
export const voidReturnLabel = (no: string) => send(`parcels/${no}/return-void`);
export const voidParcelLabel = (no: string) => send(`parcels/${no}/void`);
export const decideLabel = (no: string, what: string) => post(LabelView, `parcels/${no}/decide`, { what });
export const typeElsewhere = (no: string, label: ElsewhereLabel) =>
  post(LabelView, `parcels/${no}/elsewhere`, label);
export const closeClaim = (id: string, state: string) => send(`claims/${id}/close`, { state });

/** Where a parcel's label, or those of a batch, are printed from. */
export const labelPath = (no: string, paper: string): string =>
  `/api/v1/parcels/${no}/label.pdf?paper=${paper}`;
export const batchLabelsPath = (id: string, paper: string): string =>
  `/api/v1/labels/batches/${id}/labels.pdf?paper=${paper}`;
