import { TrackView } from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { get } from '../api.js';

/** All that is known of a parcel that left. */
export const wayQuery = (no: string) =>
  queryOptions({ queryKey: ['way', no], queryFn: () => get(TrackView, `parcels/${no}/way`) });
