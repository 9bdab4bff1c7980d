import { type RefObject, useEffect } from 'react';

/** On a page where nothing has the focus yet, the arrow keys come to its first list, where that is in sight: whoever came by a link walks it at once. */
export function useArrowsFromPage(place: RefObject<HTMLTableElement | null>): void {
  useEffect(() => {
    const begin = (e: KeyboardEvent) => {
      const list = place.current;
      if ((e.key !== 'ArrowDown' && e.key !== 'ArrowUp') || e.altKey || e.ctrlKey || e.metaKey || !list)
        return;
      const page = document.querySelector('main');
      if (e.target !== document.body && e.target !== page) return;
      if (page?.querySelector('[role="grid"], [role="treegrid"]') !== list) return;
      if (list.getBoundingClientRect().top > window.innerHeight) return;
      e.preventDefault();
      list.focus({ preventScroll: true });
    };
    window.addEventListener('keydown', begin);
    return () => window.removeEventListener('keydown', begin);
  }, [place]);
}
