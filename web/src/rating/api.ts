import { type ChosenService, type CompareAsk, CompareView } from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { post, send } from '../api.js';

/** Prices of all services for what is asked about; carriers are asked anew each time, since prices change. */
export const compareQuery = (ask: CompareAsk) =>
  queryOptions({
    queryKey: ['compare', ask],
    queryFn: () => post(CompareView, 'rating/compare', ask),
    staleTime: 30_000,
  });

export const chooseService = (orderId: string, chosen: ChosenService | null) =>
  send(`rating/orders/${orderId}`, { chosen });
