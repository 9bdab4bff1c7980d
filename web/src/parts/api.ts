import { Kept, type OrderEdit, OrderView } from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { get, send } from '../api.js';

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
