import { type CenterIn, CenterView, ElsewhereView, NetworkStock, type SentIn } from '@auk/contract';
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

export const centersQuery = queryOptions({
  queryKey: ['receiving', 'centers'],
  queryFn: () => get(CenterView.array(), 'elsewhere/centers'),
});
export const centerStockQuery = (name: string) =>
  queryOptions({
    queryKey: ['receiving', 'centers', name],
    queryFn: () => get(NetworkStock, `elsewhere/centers/${encodeURIComponent(name)}/stock`),
  });
export const connectCenter = (center: CenterIn) => send('elsewhere/centers', center);
