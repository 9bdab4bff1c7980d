import { BuyerPage, ThreadView } from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { get, post } from '../api.js';

/** What a buyer sees of an order behind its link. */
export const buyerPageQuery = (token: string) =>
  queryOptions({
    queryKey: ['buyerPage', token],
    queryFn: () => get(BuyerPage, `buyers/${encodeURIComponent(token)}`),
    retry: false,
  });
export const writeToHouse = (token: string, key: string, text: string) =>
  post(BuyerPage, `buyers/${encodeURIComponent(token)}/messages`, { key, text });
export const logoPath = (token: string): string => `/api/v1/buyers/${encodeURIComponent(token)}/logo`;
/** Where the label for the way back of a parcel, counted from 1, is printed from. */
export const returnPath = (token: string, seq: number): string =>
  `/api/v1/buyers/${encodeURIComponent(token)}/return/${seq}`;

/** All that was said about an order. */
export const threadQuery = (orderId: string) =>
  queryOptions({
    queryKey: ['thread', orderId],
    queryFn: () => get(ThreadView, `orders/${orderId}/thread`),
  });
export const writeToBuyer = (orderId: string, key: string, text: string) =>
  post(ThreadView, `orders/${orderId}/messages`, { key, text });
export const markSeen = (orderId: string) => post(ThreadView, `orders/${orderId}/messages/seen`);
