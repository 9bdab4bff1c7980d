import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { keepPreference, preferenceQuery } from './api.js';

/** Something a person keeps for themselves, on any machine; `otherwise` until they do. */
export function usePreference<T>(name: string, otherwise: T): [T, (value: T) => void] {
  // What was chosen a moment ago counts, also when it is to have nothing kept.
  const [chosen, setChosen] = useState<{ value: T } | null>(null);
  const kept = useQuery(preferenceQuery(name));
  const save = useMutation({ mutationFn: (value: T) => keepPreference(name, value) });
  return [
    chosen ? chosen.value : ((kept.data?.value as T | null | undefined) ?? otherwise),
    value => {
      setChosen({ value });
      save.mutate(value);
    },
  ];
}
