import { BulkAnswer, Kept, type OrderEdit, OrderView, RuleButtonView, SpendingView } from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { get, post, send } from '../api.js';

/** An order as it stands. */
export const orderQuery = (id: string) =>
  queryOptions({ queryKey: ['order', id], queryFn: () => get(OrderView, `orders/${id}`) });

/** Changes an order; `version` is what was seen of it. */
export const editOrder = (id: string, edit: Partial<OrderEdit> & { version: number }) =>
  send(`orders/${id}/edit`, edit);

/** How a person has arranged something, by its name. */
export const preferenceQuery = (name: string) =>
  queryOptions({
    queryKey: ['preference', name],
    queryFn: () => get(Kept, `orders/preferences/${name}`),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const keepPreference = (name: string, value: unknown) => send(`orders/preferences/${name}`, { value });

/** What is bought without a person: caps, the pause, and what was done today. */
export const spendingQuery = queryOptions({
  queryKey: ['rules', 'spending'],
  queryFn: () => get(SpendingView, 'rules/spending'),
});

/** Stops buying unattended, or lets it go on. */
export const setPause = (paused: boolean) => send(`rules/spending/${paused ? 'pause' : 'resume'}`);

/** The buttons of the book, as whoever is signed in sees them. */
export const buttonsQuery = queryOptions({
  queryKey: ['rules', 'buttons'],
  queryFn: () => get(RuleButtonView.array(), 'rules/buttons'),
});
/** Presses a button for orders, by their ids or their own numbers; each answers. */
export const pressButton = (code: string, orders: string[]) =>
  post(BulkAnswer.array(), `rules/buttons/${encodeURIComponent(code)}/press`, { orders });
