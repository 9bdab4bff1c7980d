import {
  ArrivedRow,
  BenchView,
  BoxesView,
  type BoxIn,
  type BuyLabel,
  FoundAll,
  type Guess,
  LabelView,
  MadeNo,
  OffersView,
  type PackingChoices,
  PhotoRow,
  QueueRow,
} from '@auk/contract';
import type { Size } from '@auk/core';
import { queryOptions } from '@tanstack/react-query';
import { get, post, send } from '../api.js';
import { heldOr, heldSession } from '../held.js';
import { deviceId } from '../scans/device.js';

/** Opens at this bench what a code belongs to. Without a network, what this device opened by that code before. */
export const openAtBench = (code: string) =>
  heldSession(
    `bench ${code.trim().toUpperCase()}`,
    () => post(BenchView, 'packing/open', { code, device: deviceId() }),
    view => view.sessionId,
  );

/** What is picked and waits for a bench, as it leaves. */
export const queueQuery = queryOptions({
  queryKey: ['queue'],
  queryFn: () => heldOr('bench queue', () => get(QueueRow.array(), 'packing/queue')),
});

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

/** The kinds of boxes, those first that are preferred. */
export const boxesQuery = queryOptions({
  queryKey: ['boxes'],
  queryFn: () => get(BoxesView, 'boxes'),
});

export const saveBox = (box: BoxIn) => send('boxes', box);
export const chooseProposals = (choices: PackingChoices) => send('boxes/choices', choices);
export const arrangeBoxes = (codes: readonly string[]) => send('boxes/order', { codes });

/** Pictures of an order's open boxes. */
export const photosQuery = (orderId: string) =>
  queryOptions({
    queryKey: ['order', orderId, 'photos'],
    queryFn: () => get(PhotoRow.array(), `orders/${orderId}/photos`),
  });
export const photoAddress = (id: string): string => `/api/v1/photos/${id}`;

/** The product that has a code or an SKU; null when none has. */
export const productByCode = async (text: string): Promise<{ sku: string; name: string } | null> => {
  const { exact } = await get(FoundAll, `find?text=${encodeURIComponent(text)}`);
  return exact?.kind === 'product' ? { sku: exact.code, name: exact.name } : null;
};

/** Releases a list of what an order still wants, set aside for one person; gives its number. */
export const listFor = async (orderId: string, personId: string): Promise<string> => {
  const { no } = await post(MadeNo, 'picking/lists', { orderIds: [orderId] });
  await send(`picking/lists/${no}/hand`, { personId });
  return no;
};

/** Gives the bought label of a parcel back to its carrier. */
export const voidLabel = (no: string) => send(`parcels/${no}/void`);

/** Takes a closed parcel open again. */
export const reopenParcel = (no: string) => send(`packing/parcels/${no}/open`);

/** Gives a product a code that was scanned and that nobody knew. */
export const giveCode = (sku: string, code: string) =>
  send(`products/${encodeURIComponent(sku)}/codes`, { code });

/** A product's size as it was measured here. */
export const measure = (sku: string, size: Size) =>
  send(`products/${encodeURIComponent(sku)}/measures`, size);

/** Sends a picture; sent twice it is kept once. */
export const sendPhoto = (p: { session: string; id: string; at: string; maker: string; picture: Blob }) =>
  send(
    `${benchPath(p.session)}/photos/${p.id}?${new URLSearchParams({ at: p.at, maker: p.maker })}`,
    p.picture,
  );

/** Keeps what products without size or weight count as. */
export const keepGuesses = (guesses: readonly Guess[]) => send('boxes/guesses', { guesses });
