import { ParcelListRow } from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { get } from '../api.js';

export const parcelsQuery = queryOptions({
  queryKey: ['parcels'],
  queryFn: () => get(ParcelListRow.array(), 'parcels'),
});
