import { useCallback } from 'react';
import { useNavigate } from 'react-router';
import { forNext } from './useScanner.js';

/** Goes on to another screen with what was scanned for it; where that cannot be shown, scans are taken here as before. */
export function useOnward(): (to: string, texts: readonly string[]) => Promise<void> {
  const navigate = useNavigate();
  return useCallback(
    async (to, texts) => {
      const stay = forNext(texts);
      await navigate(to);
      if (window.location.pathname !== to.split('?')[0]) stay();
    },
    [navigate],
  );
}
