import type { LiveTopic } from '@auk/contract';
import type { DataTag, QueryClient, QueryKey } from '@tanstack/react-query';

/** Which questions are asked again when something of a topic changed, here or anywhere: the first word of their keys. */
const ASKED_AGAIN: Record<Exclude<LiveTopic, 'all'>, readonly string[]> = {
  orders: ['board', 'strip', 'orders', 'order', 'lists', 'buyers', 'planChoices'],
  boxes: ['boxes'],
  carriers: ['carriers', 'compare', 'offers'],
  claims: ['claims', 'board'],
  prints: ['benches', 'tray'],
  lists: ['lists', 'list', 'heaps', 'arrived', 'queue', 'troubles', 'strip', 'board'],
  plans: ['plan', 'plans'],
  parcels: ['parcels', 'returns', 'way', 'costs', 'arrived', 'strip', 'board', 'order', 'offers', 'compare'],
  departures: ['board', 'strip', 'handover'],
  tracking: ['parcels', 'way', 'order'],
  mails: ['mails', 'thread', 'board', 'strip'],
  rules: ['rules', 'why', 'offers', 'compare'],
  messages: ['thread', 'board', 'order', 'orders', 'strip'],
  bills: ['bills'],
  stock: ['products', 'product', 'listings', 'stock', 'count', 'kits', 'kit', 'ledger', 'place'],
  catalog: ['products', 'product', 'portion', 'listings', 'order', 'kits', 'kit', 'templates'],
  channels: ['channels', 'listings'],
  builds: ['builds', 'build', 'kits'],
  inbound: ['inbound', 'board'],
  purchases: ['receiving'],
  people: ['people', 'me'],
  imports: ['imports'],
};

/** Asks again whatever shows something of these topics; of all of them, when a listener cannot tell what it missed. */
export async function changed(client: QueryClient, ...topics: LiveTopic[]): Promise<void> {
  const keys = topics.includes('all')
    ? Object.values(ASKED_AGAIN).flat()
    : topics.flatMap(t => ASKED_AGAIN[t as Exclude<LiveTopic, 'all'>] ?? []);
  await Promise.all([...new Set(keys)].map(key => client.invalidateQueries({ queryKey: [key] })));
}

/** Puts what an act answered where a question shows it. What is still on its way to the question was true before the act, and counts no more. */
export async function answered<T>(
  client: QueryClient,
  question: { queryKey: DataTag<QueryKey, T, Error> },
  answer: T,
): Promise<void> {
  await client.cancelQueries({ queryKey: question.queryKey, exact: true });
  client.setQueryData(question.queryKey, answer);
}
