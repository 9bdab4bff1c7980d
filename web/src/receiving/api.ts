import { MadeNo, PurchaseOrderRow, ReceiveView, SupplierView } from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { get, post, send } from '../api.js';
import { heldOr, heldSession } from '../held.js';
import { deviceId } from '../scans/device.js';

export const purchasesQuery = queryOptions({
  queryKey: ['receiving'],
  queryFn: () => heldOr('receiving', () => get(PurchaseOrderRow.array(), 'receiving')),
});

/** Opens a purchase order at this dock, once for each time the page is come to. */
export const dockQuery = (no: string) =>
  queryOptions({
    queryKey: ['dock', no],
    queryFn: () =>
      heldSession(
        `dock ${no}`,
        () => post(ReceiveView, `receiving/${no}/open`, { device: deviceId() }),
        opened => opened.sessionId,
      ),
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });

export const dockPath = (sessionId: string): string => `receiving/sessions/${sessionId}`;
export const readDock = (sessionId: string) => get(ReceiveView, dockPath(sessionId));

export const makePurchase = (input: object) => post(MadeNo, 'receiving', input);

/** The rest of a purchase order is not coming. */
export const endPurchase = (no: string) => send(`receiving/${no}/end`);

export const suppliersQuery = queryOptions({
  queryKey: ['receiving', 'suppliers'],
  queryFn: () => get(SupplierView.array(), 'receiving/suppliers'),
});
export const setSupplierMail = (id: string, mail: string) => send(`receiving/suppliers/${id}/mail`, { mail });
