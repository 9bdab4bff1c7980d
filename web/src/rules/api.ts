import {
  BookDifferences,
  BookVersionView,
  BulkAnswer,
  type DryRunAsk,
  DryRunView,
  OrderWhyView,
  RuleBookView,
  RuleProof,
  RuleWords,
  type SpendCapsIn,
} from '@auk/contract';
import type { RuleBook } from '@auk/core';
import { queryOptions } from '@tanstack/react-query';
import { z } from 'zod';
import { get, post, send } from '../api.js';

/** The book that runs, with what can be proved of it. */
export const rulesQuery = queryOptions({ queryKey: ['rules'], queryFn: () => get(RuleBookView, 'rules') });

/** What may be named in a rule. */
export const ruleWordsQuery = queryOptions({
  queryKey: ['rules', 'words'],
  queryFn: () => get(RuleWords, 'rules/words'),
});

export const versionsQuery = queryOptions({
  queryKey: ['rules', 'versions'],
  queryFn: () => get(BookVersionView.array(), 'rules/versions'),
});

/** What differs between two versions. */
export const differencesQuery = (no: number, other: number) =>
  queryOptions({
    queryKey: ['rules', 'versions', no, other],
    queryFn: () => get(BookDifferences, `rules/versions/${no}/against/${other}`),
  });

/** What can be proved of a book that is being written. */
export const proofsQuery = (book: RuleBook) =>
  queryOptions({
    queryKey: ['rules', 'proofs', JSON.stringify(book)],
    queryFn: () => post(RuleProof.array(), 'rules/proofs', { book }),
  });

/** How far a dry run is; asked again until it is done. */
export const dryRunQuery = (id: string) =>
  queryOptions({
    queryKey: ['rules', 'dry run', id],
    queryFn: () => get(DryRunView, `rules/dry-runs/${id}`),
    refetchInterval: query =>
      ['waiting', 'running'].includes(query.state.data?.state ?? 'waiting') ? 500 : false,
  });

/** Why an order has its service, box and the rest. */
export const orderWhyQuery = (id: string) =>
  queryOptions({
    queryKey: ['why', id],
    queryFn: () => get(OrderWhyView, `rules/orders/${id}/why`),
  });

export const setCaps = (caps: SpendCapsIn) => send('rules/spending/caps', caps);

const Saved = z.object({ no: z.number() });
export const saveBook = (base: number, book: RuleBook, note: string) =>
  post(Saved, 'rules', { base, book, note });
export const goBackTo = (no: number, base: number) => post(Saved, `rules/versions/${no}/again`, { base });
export const askDryRun = (ask: DryRunAsk) => post(DryRunView, 'rules/dry-runs', ask);
export const stopDryRun = (id: string) => post(DryRunView, `rules/dry-runs/${id}/stop`);
export const runAgain = (ids: string[]) => post(BulkAnswer.array(), 'rules/again', { ids });
