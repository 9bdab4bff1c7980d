import { BillRow, BillTaken, BillView, type CostsQuery, CostsView } from '@auk/contract';
import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { get, post } from '../api.js';

/** What shipping cost against what was paid, by a group and in a span. */
export const costsQuery = (by: CostsQuery['by'], from: string, until: string) =>
  queryOptions({
    queryKey: ['costs', by, from, until],
    placeholderData: keepPreviousData,
    queryFn: () =>
      get(
        CostsView,
        `costs?${new URLSearchParams({ by, ...(from && { from }), ...(until && { until }) }).toString()}`,
      ),
  });

export const billsQuery = queryOptions({
  queryKey: ['bills'],
  queryFn: () => get(BillRow.array(), 'costs/bills'),
});
export const billQuery = (id: string) =>
  queryOptions({ queryKey: ['bills', id], queryFn: () => get(BillView, `costs/bills/${id}`) });
export const takeBill = (about: Record<string, string>, file: Blob) =>
  post(BillTaken, `costs/bills?${new URLSearchParams(about).toString()}`, file);
export const claimPath = (id: string): string => `/api/v1/costs/bills/${id}/claim.csv`;
