import {
  type FloorIn,
  FloorView,
  type MakeTotes,
  type MakeWall,
  type Page,
  type PlaceIn,
  PlaceRow,
  PlaceView,
  pageOf,
  ToteRow,
  WallMade,
  WallView,
} from '@auk/contract';
import { infiniteQueryOptions, keepPreviousData, queryOptions } from '@tanstack/react-query';
import { get, post, send } from '../api.js';
import { heldOr } from '../held.js';

export const placesQuery = (question: string) =>
  infiniteQueryOptions({
    queryKey: ['stock', 'places', question],
    placeholderData: keepPreviousData,
    queryFn: ({ pageParam }) =>
      get(
        pageOf(PlaceRow),
        `stock/places?${question}${pageParam ? `&after=${encodeURIComponent(pageParam)}` : ''}`,
      ),
    initialPageParam: '',
    getNextPageParam: (last: Page<PlaceRow>) => last.next,
  });

export const placeQuery = (code: string) =>
  queryOptions({
    queryKey: ['place', code],
    queryFn: () => get(PlaceView, `places/${encodeURIComponent(code)}`),
  });

/** Makes a place, or changes the one that has its code. */
export const savePlace = (place: PlaceIn) => send('stock/places', place);

export const floorQuery = queryOptions({
  queryKey: ['stock', 'floor'],
  queryFn: () => heldOr('floor', () => get(FloorView, 'stock/floor')),
});
export const saveFloor = (floor: FloorIn) => post(FloorView, 'stock/floor', floor);

export const totesQuery = queryOptions({
  queryKey: ['stock', 'totes'],
  queryFn: () => get(ToteRow.array(), 'stock/totes'),
});
/** Numbers further totes; gives their codes. */
export const makeTotes = (totes: MakeTotes) => post(ToteRow.shape.code.array(), 'stock/totes', totes);

export const wallsQuery = queryOptions({
  queryKey: ['stock', 'walls'],
  queryFn: () => get(WallView.array(), 'stock/walls'),
});
export const makeWall = (wall: MakeWall) => post(WallMade, 'stock/walls', wall);
export const removeWall = (wall: string) => send(`stock/walls/${wall}/remove`, {});
