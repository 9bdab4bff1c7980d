import {
  LinkAnswer,
  ListingRow,
  MeasuredRow,
  type Page,
  ProductHistory,
  ProductRow,
  pageOf,
} from '@auk/contract';
import { infiniteQueryOptions, keepPreviousData, queryOptions } from '@tanstack/react-query';
import { get, post, send } from '../api.js';

const pathOf = (sku: string) => `products/${encodeURIComponent(sku)}`;

export const productsQuery = (question: string) =>
  queryOptions({
    queryKey: ['products', 'list', question],
    placeholderData: keepPreviousData,
    queryFn: () => get(pageOf(ProductRow), `products?${question}`),
  });

/** The first products that words find, to pick one from; asked from two letters on. */
export const foundProductsQuery = (words: string) =>
  queryOptions({
    queryKey: ['products', 'pick', words],
    placeholderData: keepPreviousData,
    queryFn: () => get(pageOf(ProductRow), `products?words=${encodeURIComponent(words)}&size=12`),
    enabled: words.length > 1,
  });

export const productQuery = (sku: string) =>
  queryOptions({ queryKey: ['product', sku], queryFn: () => get(ProductRow, pathOf(sku)) });

export const productHistoryQuery = (sku: string) =>
  queryOptions({
    queryKey: ['product', sku, 'history'],
    queryFn: () => get(ProductHistory.array(), `${pathOf(sku)}/history`),
  });

/** What benches found and nobody has looked at yet. */
export const measuresQuery = queryOptions({
  queryKey: ['products', 'measured'],
  queryFn: () => get(MeasuredRow.array(), 'measures'),
});
export const decideMeasure = (id: string, take: boolean) => send(`measures/${id}`, { take });

export const makeProduct = (input: object) => send('products', input);
export const editProduct = (sku: string, edit: object) => send(pathOf(sku), edit);
/** One of the acts on a product: `/picture`, `/codes` and so on. */
export const actOnProduct = (sku: string, act: string, body: unknown) => send(`${pathOf(sku)}${act}`, body);
/** The same facts of many products. */
export const editProducts = (skus: readonly string[], fields: object) =>
  send('products/edit', { skus, fields });

export const listingsQuery = (question: string) =>
  infiniteQueryOptions({
    queryKey: ['listings', question],
    placeholderData: keepPreviousData,
    queryFn: ({ pageParam }) =>
      get(
        pageOf(ListingRow),
        `listings?${question}${pageParam ? `&after=${encodeURIComponent(pageParam)}` : ''}`,
      ),
    initialPageParam: '',
    getNextPageParam: (last: Page<ListingRow>) => last.next,
  });

/** Listings of a channel's SKU that no product stands behind yet. */
export const unlinkedQuery = (channelSku: string) =>
  queryOptions({
    queryKey: ['listings', 'cure', channelSku],
    queryFn: () => get(pageOf(ListingRow), `listings?state=unlinked&words=${encodeURIComponent(channelSku)}`),
  });

export const linkListings = (links: readonly object[]) => post(LinkAnswer, 'listings/link', { links });
/** Links every unlinked listing of a channel's SKU, or makes the product it sells. */
export const linkSku = (channelSku: string, to: object) =>
  post(LinkAnswer, 'listings/link-sku', { channelSku, ...to });
export const makeProductsOf = (listingIds: readonly string[]) =>
  post(LinkAnswer, 'listings/products', { listingIds });
