import { Kept } from '@auk/contract';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { get, send } from '../api.js';

/** Something a person keeps for themselves, on any machine; `otherwise` until they do. */
export function usePreference<T>(name: string, otherwise: T): [T, (value: T) => void] {
  const [chosen, setChosen] = useState<T | null>(null);
  const kept = useQuery({
    queryKey: ['preference', name],
    queryFn: () => get(Kept, `orders/preferences/${name}`),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const save = useMutation({ mutationFn: (value: T) => send(`orders/preferences/${name}`, { value }) });
  return [
    chosen ?? (kept.data?.value as T | null | undefined) ?? otherwise,
    value => {
      setChosen(value);
      save.mutate(value);
    },
  ];
}
