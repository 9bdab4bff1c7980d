import {
  BulkAnswer,
  type ChosenService,
  type CompareAsk,
  CompareView,
  type ParcelTemplateIn,
  ParcelTemplateView,
} from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { get, post, send } from '../api.js';

/** Prices of all services for what is asked about; carriers are asked anew each time, since prices change. */
export const compareQuery = (ask: CompareAsk) =>
  queryOptions({
    queryKey: ['compare', ask],
    queryFn: () => post(CompareView, 'rating/compare', ask),
    staleTime: 30_000,
  });

export const chooseService = (orderId: string, chosen: ChosenService | null) =>
  send(`rating/orders/${orderId}`, { chosen });

/** Ready-made choices of service, box and what is asked. */
export const parcelTemplatesQuery = queryOptions({
  queryKey: ['carriers', 'templates'],
  queryFn: () => get(ParcelTemplateView.array(), 'rating/templates'),
});
export const keepTemplate = (template: ParcelTemplateIn) => send('rating/templates', template);
export const dropTemplate = (id: string) => send(`rating/templates/${id}/remove`);
export const sendAs = (id: string, ids: readonly string[]) =>
  post(BulkAnswer.array(), `rating/templates/${id}/use`, { ids });
