import {
  BuildPortion,
  BuildRow,
  BuildView,
  KitRow,
  KitView,
  MadeNo,
  MissingAnswer,
  MovedOrders,
  PromiseAnswer,
  ProposedBuildRow,
} from '@auk/contract';
import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { get, post, send } from '../api.js';

const pathOf = (sku: string) => `kits/${encodeURIComponent(sku)}`;

export const kitsQuery = queryOptions({ queryKey: ['kits'], queryFn: () => get(KitRow.array(), 'kits') });
export const kitQuery = (sku: string) =>
  queryOptions({ queryKey: ['kit', sku], queryFn: () => get(KitView, pathOf(sku)) });

/** What is missing to have so many in all. */
export const missingQuery = (sku: string, quantity: number) =>
  queryOptions({
    queryKey: ['kit', sku, 'missing', quantity],
    placeholderData: keepPreviousData,
    queryFn: () => get(MissingAnswer, `${pathOf(sku)}/missing?quantity=${quantity}`),
    enabled: quantity > 0,
  });

/** Where orders take a kit from. */
export const setKitPolicy = (sku: string, kitPolicy: string) => send(`${pathOf(sku)}/policy`, { kitPolicy });
export const saveRecipe = (sku: string, recipe: object) => send(`${pathOf(sku)}/recipe`, recipe);
/** Moves orders to the newest version of a recipe. */
export const moveOrders = (sku: string, orderIds: readonly string[]) =>
  post(MovedOrders, `${pathOf(sku)}/orders`, { orderIds });
/** Whether some wishes can be promised together. */
export const askPromise = (wishes: object) => post(PromiseAnswer, 'kits/promise', wishes);

export const buildsQuery = queryOptions({
  queryKey: ['builds'],
  queryFn: () => get(BuildRow.array(), 'builds'),
});
export const proposedBuildsQuery = queryOptions({
  queryKey: ['builds', 'proposed'],
  queryFn: () => get(ProposedBuildRow.array(), 'builds/proposed'),
});
export const buildQuery = (no: string) =>
  queryOptions({ queryKey: ['build', no], queryFn: () => get(BuildView, `builds/${no}`) });

export const planBuild = (input: object) => post(MadeNo, 'builds', input);
export const takeApart = (input: object) => post(MadeNo, 'builds/unbuild', input);
export const stopBuild = (no: string) => send(`builds/${no}/stop`);
export const finishPortion = (no: string, input: object) => send(`builds/${no}/finish`, input);

/** The portion of a build that is begun under an id, as far as it was scanned; asked once. */
export const portionQuery = (no: string, id: string) =>
  queryOptions({
    queryKey: ['portion', id],
    queryFn: () => get(BuildPortion, `builds/${no}/sessions/${id}`),
    staleTime: Number.POSITIVE_INFINITY,
  });
/** Where the scans of a portion go. */
export const portionPath = (no: string, id: string): string => `builds/${no}/sessions/${id}/scans`;
