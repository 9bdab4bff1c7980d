import { MadeNo, PurchaseOrderRow, ReceiveView } from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { get, post, send } from '../api.js';
import { deviceId } from '../scans/device.js';

export const purchasesQuery = queryOptions({
  queryKey: ['receiving'],
  queryFn: () => get(PurchaseOrderRow.array(), 'receiving'),
});

/** Opens a purchase order at this dock, once for each time the page is come to. */
export const dockQuery = (no: string) =>
  queryOptions({
    queryKey: ['dock', no],
    queryFn: () => post(ReceiveView, `receiving/${no}/open`, { device: deviceId() }),
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });

export const dockPath = (sessionId: string): string => `receiving/sessions/${sessionId}`;
export const readDock = (sessionId: string) => get(ReceiveView, dockPath(sessionId));

export const makePurchase = (input: object) => post(MadeNo, 'receiving', input);

/** The rest of a purchase order is not coming. */
export const endPurchase = (no: string) => send(`receiving/${no}/end`);
