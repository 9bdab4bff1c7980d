import {
  Among,
  BulkAnswer,
  KeptQuestion,
  KnownBuyer,
  type LatinIn,
  LatinView,
  MadeId,
  Neighbours,
  OrderPageAnswer,
} from '@auk/contract';
import { infiniteQueryOptions, keepPreviousData, queryOptions } from '@tanstack/react-query';
import { get, post, send } from '../api.js';

const after = (id: string) => (id === '' ? '' : `&after=${encodeURIComponent(id)}`);

/** The list of orders that a question asks for, a page at a time; the old rows stay until the new ones are there. */
export const ordersQuery = (question: string) =>
  infiniteQueryOptions({
    queryKey: ['orders', question],
    placeholderData: keepPreviousData,
    queryFn: ({ pageParam }) => get(OrderPageAnswer, `orders?${question}${after(pageParam)}`),
    initialPageParam: '',
    getNextPageParam: (last: OrderPageAnswer) => last.next,
  });

/** How many of the orders of a question are stopped, short and so on. */
export const amongQuery = (question: string) =>
  queryOptions({
    queryKey: ['orders', 'among', question],
    placeholderData: keepPreviousData,
    queryFn: () => get(Among, `orders/among?${question}`),
  });

export const keptQuestionsQuery = queryOptions({
  queryKey: ['orders', 'questions'],
  queryFn: () => get(KeptQuestion.array(), 'orders/questions'),
});
export const keepQuestion = (name: string, question: string) => send('orders/questions', { name, question });
export const forgetQuestion = (id: string) => send(`orders/questions/${id}/forget`);

/** The orders before and after one in the list of a question. */
export const besideQuery = (id: string, question: string) =>
  queryOptions({
    queryKey: ['orders', 'beside', id, question],
    placeholderData: keepPreviousData,
    queryFn: () => get(Neighbours, `orders/${id}/beside?${question}`),
  });

/** Buyers that are known by these words. */
export const buyersQuery = (words: string) =>
  queryOptions({
    queryKey: ['buyers', words],
    placeholderData: keepPreviousData,
    queryFn: () => get(KnownBuyer.array(), `orders/buyers?words=${encodeURIComponent(words)}`),
  });

/** An order's address in Latin letters: a proposal, and what was given. */
export const latinQuery = (id: string) =>
  queryOptions({ queryKey: ['order', id, 'latin'], queryFn: () => get(LatinView, `orders/${id}/latin`) });
export const giveLatin = (id: string, latin: LatinIn) => post(LatinView, `orders/${id}/latin`, latin);

export const makeOrder = () => post(MadeId, 'orders', {});
export const copyOrder = (id: string, free: boolean) => post(MadeId, `orders/${id}/copy`, { free });
export const starOrder = (id: string, starred: boolean) => send(`orders/${id}/star`, { starred });
/** Changes of an order whose version is told with them, so that nobody overwrites what they have not seen. */
/** One of the acts on an order: `park`, `notes`, `tags` and so on. */
export const actOnOrder = (id: string, act: string, body: object) => send(`orders/${id}/${act}`, body);
export const splitOrder = (id: string, split: object) => post(MadeId, `orders/${id}/split`, split);
export const mergeOrders = (ids: readonly string[]) => post(MadeId, 'orders/merge', { ids });
/** One act on many orders; each gives its own answer. */
export const actOnMany = (act: object) => post(BulkAnswer.array(), 'orders/bulk', act);
/** Where the scans of a draft go. */
export const draftPath = (id: string): string => `orders/${id}/scans`;
