import { type RefObject, useEffect } from 'react';

/** What does something with arrow keys itself. */
const OWN_ARROWS =
  'input, textarea, select, [contenteditable], [aria-haspopup], [aria-roledescription], [role="menu"], [role="listbox"], [role="tablist"], [role="dialog"], [role="grid"], [role="treegrid"]';

/**
 * The arrow keys come to the first list of a page, where that is in sight and nothing else takes them: whoever came by a link, or has
 * just pressed a button above the list, walks it at once.
 */
export function useArrowsFromPage(place: RefObject<HTMLTableElement | null>): void {
  useEffect(() => {
    const begin = (e: KeyboardEvent) => {
      const list = place.current;
      if ((e.key !== 'ArrowDown' && e.key !== 'ArrowUp') || e.altKey || e.ctrlKey || e.metaKey || !list)
        return;
      const page = document.querySelector('main');
      const on = e.target as Element;
      if (e.defaultPrevented || on.closest(OWN_ARROWS)) return;
      if (page?.querySelector('[role="grid"], [role="treegrid"]') !== list) return;
      if (list.getBoundingClientRect().top > window.innerHeight) return;
      e.preventDefault();
      list.focus({ preventScroll: true });
    };
    window.addEventListener('keydown', begin);
    return () => window.removeEventListener('keydown', begin);
  }, [place]);
}
