import {
  InboundFileAnswer,
  InboundNetworks,
  InboundPrice,
  InboundRow,
  InboundScanned,
  InboundView,
  InboundWays,
  MadeNo,
  OpenedPreparing,
  ToPrepareRow,
  type WayIn,
} from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { get, post, send } from '../api.js';
import { deviceId } from '../scans/device.js';

const pathOf = (no: string) => `inbound/${encodeURIComponent(no)}`;

export const shipmentsQuery = queryOptions({
  queryKey: ['inbound'],
  queryFn: () => get(InboundRow.array(), 'inbound'),
});
export const networksQuery = queryOptions({
  queryKey: ['inbound', 'networks'],
  queryFn: () => get(InboundNetworks, 'inbound/networks'),
});
export const shipmentQuery = (no: string) =>
  queryOptions({ queryKey: ['inbound', no], queryFn: () => get(InboundView, pathOf(no)) });
/** All ways are planned anew when it is asked; `of` is what they hang on. */
export const waysQuery = (no: string, of: string) =>
  queryOptions({
    queryKey: ['inbound', no, 'ways', of],
    queryFn: () => get(InboundWays, `${pathOf(no)}/ways`),
  });

export const beginShipment = (input: object) => post(MadeNo, 'inbound', input);
export const setPrefix = (prefix: string) => send('inbound/prefix', { prefix });
export const changeShipment = (no: string, input: object) => send(`${pathOf(no)}/change`, input);
export const setLine = (no: string, input: object) => send(`${pathOf(no)}/lines`, input);
export const bringLines = async (no: string, file: File) =>
  post(InboundFileAnswer, `${pathOf(no)}/file`, { text: await file.text() });
export const takeGoodsOf = (no: string, code: string) => send(`${pathOf(no)}/from`, { code });
export const askCodes = (no: string) => send(`${pathOf(no)}/codes`);
export const scanGoods = (no: string, text: string) => post(InboundScanned, `${pathOf(no)}/scans`, { text });
export const setPrepared = (no: string, input: object) => send(`${pathOf(no)}/prepared`, input);
/** Shipments of which units are still to be prepared. */
export const toPrepareQuery = queryOptions({
  queryKey: ['inbound', 'preparing'],
  queryFn: () => get(ToPrepareRow.array(), 'preparing'),
});
/** Opens a shipment for preparing on this device. */
export const openPreparing = (code: string) =>
  post(OpenedPreparing, 'preparing/open', { code, device: deviceId() });
/** Where the scans of preparing go. */
export const preparePath = (sessionId: string): string => `preparing/sessions/${sessionId}/scans`;
/** Labels of one product of a shipment, for a label printer. */
export const unitLabelsPath = (no: string, sku: string, count: number): string =>
  `/api/v1/${pathOf(no)}/unit-labels/thermal?sku=${encodeURIComponent(sku)}&count=${count}`;
export const chooseWay = (no: string, { network, placement, form, carrier, rates }: WayIn) =>
  send(`${pathOf(no)}/way`, { network, placement, form, carrier, rates });
export const reserveShipment = (no: string, key: string) => send(`${pathOf(no)}/reserve`, { key });
export const cancelShipment = (no: string, key: string) => send(`${pathOf(no)}/cancel`, { key });
export const takePlan = (no: string, key: string) => send(`${pathOf(no)}/replan`, { key });
export const followNow = (no: string) => send(`${pathOf(no)}/follow`);

const partPath = (id: string) => `inbound/parts/${id}`;
export const cancelPart = (id: string, key: string) => send(`${partPath(id)}/cancel`, { key });
export const movePlanned = (id: string, input: object) => send(`${partPath(id)}/move`, input);
export const askPrice = (id: string) => post(InboundPrice, `${partPath(id)}/price`);
export const bookPart = (id: string, key: string, priceMinor: number) =>
  send(`${partPath(id)}/book`, { key, priceMinor });
export const callOffPart = (id: string) => send(`${partPath(id)}/call-off`);
export const partLeaves = (id: string) => send(`${partPath(id)}/leave`);
export const decideDifference = (id: string, as: string, reason: string) =>
  send(`inbound/differences/${id}/decide`, { as, reason });
