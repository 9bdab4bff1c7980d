import type { Person } from '@auk/contract';
import { useQuery } from '@tanstack/react-query';
import { meQuery } from './api.js';

/** The person who is signed in; pages are shown to nobody else. */
export function useMe(): Person {
  const { data } = useQuery(meQuery);
  if (!data) throw new Error('Nobody is signed in.');
  return data;
}
