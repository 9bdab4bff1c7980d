import {
  MadeBadge,
  Person,
  type PersonEdit,
  type PersonIn,
  PersonRow,
  type Right,
  RightsTable,
  type Role,
} from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { get, post, Refused, send, Unreached } from '../api.js';
import { heldOr, hold } from '../held.js';

/** Who is signed in. Once known it stays known: a question that fails later throws nobody out. */
export const meQuery = queryOptions({
  queryKey: ['me'],
  queryFn: () => heldOr('me', () => get(Person, 'people/me')),
  retry: (failures, error) => !(error instanceof Refused || error instanceof Unreached) && failures < 3,
  staleTime: Number.POSITIVE_INFINITY,
  gcTime: Number.POSITIVE_INFINITY,
});

export const peopleQuery = queryOptions({
  queryKey: ['people'],
  queryFn: () => get(PersonRow.array(), 'people'),
});

/** What each role may do. */
export const rightsQuery = queryOptions({
  queryKey: ['people', 'rights'],
  queryFn: () => get(RightsTable, 'people/rights'),
});

/** Signs in; from then on this device starts in that name, also without a network. */
export async function signIn(badge: string, pin: string): Promise<Person> {
  const me = await post(Person, 'people/sign-in', { badge, pin });
  await hold('me', me);
  return me;
}
export const signOut = () => send('people/sign-out');
export const addPerson = (input: PersonIn) => post(MadeBadge, 'people', input);
export const changePerson = (id: string, edit: PersonEdit) => send(`people/${id}`, edit);
export const giveNewPin = (id: string, pin: string) => send(`people/${id}/pin`, { pin });
export const setRight = (input: { right: Right; role: Role; on: boolean }) =>
  post(RightsTable, 'people/rights', input);
