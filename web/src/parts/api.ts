import { Kept } from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { get, send } from '../api.js';

/** How a person has arranged something, by its name. */
export const preferenceQuery = (name: string) =>
  queryOptions({
    queryKey: ['preference', name],
    queryFn: () => get(Kept, `orders/preferences/${name}`),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const keepPreference = (name: string, value: unknown) => send(`orders/preferences/${name}`, { value });
