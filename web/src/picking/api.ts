import { FloorChoices, FloorTroubles, ListRow, ListView, MadeNo, OpenedList, Picker } from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { get, post, send } from '../api.js';
import { heldOr, heldSession } from '../held.js';
import { deviceId } from '../scans/device.js';

export const listsQuery = queryOptions({
  queryKey: ['lists'],
  queryFn: () => heldOr('lists', () => get(ListRow.array(), 'picking/lists')),
});

export const listQuery = (no: string) =>
  queryOptions({
    queryKey: ['list', no],
    queryFn: () => heldOr(`list view ${no}`, () => get(ListView, `picking/lists/${no}`)),
  });

/** Opens a list on this device by its code; one that was taken here goes on without a network too. */
export const openList = (code: string) =>
  heldSession(
    `list ${code.trim().toUpperCase()}`,
    () => post(OpenedList, 'picking/open', { code, device: deviceId() }),
    opened => opened.sessionId,
  );

/** Takes the list that is next for whoever is signed in. */
export const takeNext = () => post(OpenedList, 'picking/next', { device: deviceId() });

export const pickersQuery = queryOptions({
  queryKey: ['people', 'pickers'],
  queryFn: () => get(Picker.array(), 'picking/pickers'),
});

/** Sets a list aside for a person; null: for anybody. */
export const handList = (no: string, personId: string | null) =>
  send(`picking/lists/${no}/hand`, { personId });

/** Puts orders on a new pick list. */
export const makeList = (orderIds: readonly string[]) => post(MadeNo, 'picking/lists', { orderIds });
/** Where the scans of a walk go. */
export const walkPath = (sessionId: string): string => `picking/sessions/${sessionId}/scans`;

export const floorChoicesQuery = queryOptions({
  queryKey: ['floorChoices'],
  queryFn: () => get(FloorChoices, 'picking/choices'),
});
/** What pickers see and what follows, for walks that begin from now on. */
export const setFloorChoices = (choices: FloorChoices) => send('picking/choices', choices);

export const troublesQuery = queryOptions({
  queryKey: ['troubles'],
  queryFn: () => get(FloorTroubles, 'picking/troubles'),
});

/** Papers of lists as one document. */
export const papersPath = (lists: readonly string[], papers: string): string =>
  `/api/v1/picking/papers.pdf?lists=${lists.join(',')}&papers=${papers}`;
