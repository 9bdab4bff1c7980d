import { PlanChoices, type PlanIn, PlanRow, PlanView, Released, WalkView } from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { get, post } from '../api.js';

export const choicesQuery = queryOptions({
  queryKey: ['planChoices'],
  queryFn: () => get(PlanChoices, 'planning/choices'),
});

export const plansQuery = queryOptions({
  queryKey: ['plans'],
  queryFn: () => get(PlanRow.array(), 'planning/plans'),
});

/** While a plan is being made it is looked at every second, also where live messages do not come. */
const LOOK_MS = 1_000;

export const planQuery = (id: string) =>
  queryOptions({
    queryKey: ['plan', id],
    queryFn: () => get(PlanView, `planning/plans/${id}`),
    refetchInterval: q => (q.state.data?.state === 'planning' ? LOOK_MS : false),
  });

/** The walk of a planned list; another one when its orders change. */
export const walkQuery = (planId: string, listId: string, orders: number) =>
  queryOptions({
    queryKey: ['plan', planId, 'walk', listId, orders],
    queryFn: () => get(WalkView, `planning/plans/${planId}/lists/${listId}/walk`),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const askPlan = (question: PlanIn) => post(PlanView, 'planning/plans', question);
export const stopPlan = (id: string) => post(PlanView, `planning/plans/${id}/stop`);
export const moveOrder = (id: string, act: { version: number; orderId: string; to: string | null }) =>
  post(PlanView, `planning/plans/${id}/move`, act);
export const lockList = (id: string, act: { version: number; listId: string; locked: boolean }) =>
  post(PlanView, `planning/plans/${id}/lock`, act);
export const releaseLists = (id: string, listIds: readonly string[]) =>
  post(Released, `planning/plans/${id}/release`, { listIds });
