import { BulkAnswer, RuleButtonView, SpendingView } from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { get, post, send } from '../api.js';

// What every page asks of the rules, apart from the book, so that Bench and Floor do not come with it.

/** What is bought without a person: caps, the pause, and what was done today. */
export const spendingQuery = queryOptions({
  queryKey: ['rules', 'spending'],
  queryFn: () => get(SpendingView, 'rules/spending'),
});

/** Stops buying unattended, or lets it go on. */
export const setPause = (paused: boolean) => send(`rules/spending/${paused ? 'pause' : 'resume'}`);

/** The buttons of the book, as whoever is signed in sees them. */
export const buttonsQuery = queryOptions({
  queryKey: ['rules', 'buttons'],
  queryFn: () => get(RuleButtonView.array(), 'rules/buttons'),
});
/** Presses a button for orders, by their ids or their own numbers; each answers. */
export const pressButton = (code: string, orders: string[]) =>
  post(BulkAnswer.array(), `rules/buttons/${encodeURIComponent(code)}/press`, { orders });
