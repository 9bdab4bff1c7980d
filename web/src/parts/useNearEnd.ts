import { useEffect } from 'react';

/** Calls `more` when the page is scrolled near its end. */
export function useNearEnd(more: () => void, on: boolean): void {
  useEffect(() => {
    if (!on) return;
    const look = () => {
      if (window.innerHeight + window.scrollY > document.documentElement.scrollHeight - 1200) more();
    };
    look();
    window.addEventListener('scroll', look, { passive: true });
    return () => window.removeEventListener('scroll', look);
  }, [more, on]);
}
