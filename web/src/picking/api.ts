import { ListRow, ListView, MadeNo, OpenedList } from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { get, post } from '../api.js';
import { deviceId } from '../scans/device.js';

export const listsQuery = queryOptions({
  queryKey: ['lists'],
  queryFn: () => get(ListRow.array(), 'picking/lists'),
});

export const listQuery = (no: string) =>
  queryOptions({ queryKey: ['list', no], queryFn: () => get(ListView, `picking/lists/${no}`) });

/** Opens a list on this device, by the code of the list or of a tote of it. */
export const openList = (code: string) => post(OpenedList, 'picking/open', { code, device: deviceId() });

/** Puts orders on a new pick list. */
export const makeList = (orderIds: readonly string[]) => post(MadeNo, 'picking/lists', { orderIds });
/** Where the scans of a walk go. */
export const walkPath = (sessionId: string): string => `picking/sessions/${sessionId}/scans`;
