import { useQuery } from '@tanstack/react-query';
import { houseQuery } from './api.js';

/** The currency that the house counts in. */
export const useCurrency = (): string => useQuery(houseQuery).data?.currency ?? '';
