import { HouseState, Keep, MadeBadge, type OpenHouse } from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { get, post, send } from '../api.js';
import { heldOr } from '../held.js';
import { setHouseZone } from '../parts/format.js';

/** Whether the house is open, and its zone, by which every time on screen is told. */
export const houseQuery = queryOptions({
  queryKey: ['house'],
  queryFn: async () => {
    const state = await heldOr('house', () => get(HouseState, 'house'));
    setHouseZone(state.zone);
    return state;
  },
  staleTime: Number.POSITIVE_INFINITY,
});

export const openHouse = (input: OpenHouse) => post(MadeBadge, 'house/open', input);

/** How long what is done is kept. */
export const keepQuery = queryOptions({ queryKey: ['upkeep'], queryFn: () => get(Keep, 'upkeep') });
export const setKeep = (days: Record<string, number>) => send('upkeep', days);

/** Tries work again that was given up. */
export const retryJob = (job: string) => send(`jobs/${job}/retry`);
