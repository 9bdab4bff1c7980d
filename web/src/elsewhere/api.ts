import { ElsewhereView, type SentIn } from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { z } from 'zod';
import { get, send } from '../api.js';

/** Who sends an order in the house's stead; null when the house does. */
export const elsewhereQuery = (id: string) =>
  queryOptions({
    queryKey: ['order', id, 'elsewhere'],
    queryFn: () => get(z.object({ sent: ElsewhereView.nullable() }), `elsewhere/orders/${id}`),
  });

export const tellLeft = (id: string, sent: SentIn) => send(`elsewhere/orders/${id}/left`, sent);
export const sendFromHere = (id: string) => send(`elsewhere/orders/${id}/back`);
