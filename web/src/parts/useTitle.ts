import { useEffect } from 'react';

/** What the tab of the browser says: `WS-20481 · Auk`. Nothing changes while the words are not known. */
export function useTitle(words: string): void {
  useEffect(() => {
    if (words !== '') document.title = `${words} · Auk`;
  }, [words]);
}
