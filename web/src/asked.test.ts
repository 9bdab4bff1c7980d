import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { LiveTopic } from '@auk/contract';
import { QueryClient } from '@tanstack/react-query';
import { expect, test } from 'vitest';
import { answered, changed } from './asked.js';

/** The first words of the keys of all questions that the front asks. */
function questions(): Set<string> {
  const words = new Set<string>();
  for (const file of readdirSync(import.meta.dirname, { recursive: true, encoding: 'utf8' })) {
    if (!/\.tsx?$/.test(file) || /\.test\./.test(file)) continue;
    const text = readFileSync(join(import.meta.dirname, file), 'utf8');
    for (const [, word] of text.matchAll(/queryKey: \[\s*'(\w+)'/g)) words.add(word!);
  }
  return words;
}

/** Which of all questions are asked again when topics change. */
async function askedAgain(...topics: LiveTopic[]): Promise<string[]> {
  const client = new QueryClient();
  for (const word of questions()) client.setQueryData([word, 'one'], 'an answer');
  await changed(client, ...topics);
  return [...questions()].filter(word => client.getQueryState([word, 'one'])!.isInvalidated);
}

test('every topic asks something again, and every question that a topic names is asked somewhere', async () => {
  const there = questions();
  expect(there.size).toBeGreaterThan(40);
  const named = readFileSync(join(import.meta.dirname, 'asked.ts'), 'utf8').matchAll(
    /^ {2}(\w+): \[([^\]]*)\]/gm,
  );
  const topics = new Map([...named].map(([, topic, words]) => [topic, words!.match(/\w+/g) ?? []]));
  expect([...topics.keys(), 'all'].sort()).toEqual([...LiveTopic.options].sort());
  for (const [topic, words] of topics)
    expect([topic, words.filter(word => !there.has(word))]).toEqual([topic, []]);
});

test('what a topic is about is asked again, and nothing else', async () => {
  expect(await askedAgain('claims')).toEqual(expect.arrayContaining(['claims', 'board']));
  expect(await askedAgain('bills')).toEqual(['bills']);
  expect(await askedAgain('bills', 'people')).toHaveLength(3);
  expect(await askedAgain()).toEqual([]);
});

test('what a buyer writes is counted on every page at once, not when the strip is asked for the next time', async () => {
  expect(await askedAgain('messages')).toEqual(
    expect.arrayContaining(['strip', 'orders', 'board', 'thread']),
  );
  expect(await askedAgain('mails')).toContain('strip');
});

test('whoever cannot tell what was missed asks all that any topic is about', async () => {
  const all = await askedAgain('all');
  for (const topic of LiveTopic.options)
    if (topic !== 'all') for (const word of await askedAgain(topic)) expect(all).toContain(word);
  // What no act of others changes is not asked again.
  expect(all).not.toContain('preference');
});

test('an answer of an act stands where its question shows it, whatever is still on its way', async () => {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const queryKey = ['order', '7'];
  let late: (text: string) => void = () => {};
  const asking = client
    .fetchQuery({ queryKey, queryFn: () => new Promise<string>(resolve => (late = resolve)) })
    .catch(() => 'given up');
  await answered(client, { queryKey } as never, 'as it is now');
  late('as it was');
  await asking;
  expect(client.getQueryData(queryKey)).toBe('as it is now');
});
