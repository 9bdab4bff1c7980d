import { useMutation, useQueryClient } from '@tanstack/react-query';
import { changed } from '../asked.js';

/** An act on a shipment: what it changed is asked for again. */
export function useAct<V = void, A = unknown>(act: (what: V) => Promise<A>, done?: (answer: A) => void) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: act,
    onSuccess: async answer => {
      await changed(client, 'inbound', 'orders', 'stock');
      done?.(answer);
    },
  });
}
