import { useCallback } from 'react';

interface Paged {
  hasNextPage: boolean;
  isFetchingNextPage: boolean;
  fetchNextPage: (options: { cancelRefetch: boolean }) => unknown;
}

const UNDER_WAY = () => {};

/** What a list calls near its end: asks for the next page; null when there is none. */
export function useMore({ hasNextPage, isFetchingNextPage, fetchNextPage }: Paged): (() => void) | null {
  const more = useCallback(() => void fetchNextPage({ cancelRefetch: false }), [fetchNextPage]);
  if (!hasNextPage) return null;
  return isFetchingNextPage ? UNDER_WAY : more;
}
