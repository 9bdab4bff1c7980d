import { useMutation, useQueryClient } from '@tanstack/react-query';
import { changed } from '../asked.js';

/** Does something and has everything asked again, so that what it freed is seen at once. */
export function useCure<T>(act: (value: T) => Promise<unknown>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: act,
    onSuccess: () => changed(client, 'orders', 'stock', 'lists', 'parcels'),
  });
}
