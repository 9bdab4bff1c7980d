import type { PlanView } from '@auk/contract';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { changed } from '../asked.js';
import { say } from '../parts/say.js';
import { lockList, moveOrder, planQuery, releaseLists } from './api.js';

/** What is done to a plan; each answer is the plan as it is then. */
export function usePlanActs(plan: PlanView) {
  const client = useQueryClient();
  const took = (now: PlanView) => client.setQueryData(planQuery(plan.id).queryKey, now);
  const move = useMutation({
    mutationFn: (act: { orderId: string; to: string | null }) =>
      moveOrder(plan.id, { version: plan.version, ...act }),
    onSuccess: took,
  });
  const lock = useMutation({
    mutationFn: (act: { listId: string; locked: boolean }) =>
      lockList(plan.id, { version: plan.version, ...act }),
    onSuccess: took,
  });
  const release = useMutation({
    mutationFn: (ids: string[]) => releaseLists(plan.id, ids),
    onSuccess: async ({ lists }) => {
      const out = lists.flatMap(l => l.no ?? []);
      if (out.length > 0) say(`Released: ${out.join(', ')}.`);
      await changed(client, 'plans', 'lists', 'orders', 'stock');
    },
  });
  return { move, lock, release, error: move.error ?? lock.error ?? release.error };
}
