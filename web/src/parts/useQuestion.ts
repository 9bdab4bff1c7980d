import { useSearchParams } from 'react-router';

/**
 * What the address asks at this moment. A busy page may not have been drawn anew since the last change of it; who changes a part from
 * what the page shows would take that change back.
 */
export const addressNow = (): URLSearchParams => new URLSearchParams(window.location.search);

/** The question that a list's address holds: as a text (empty parts left out), by part, and a way to change one part. */
export function useQuestion(): {
  question: string;
  part: (key: string) => string;
  set: (key: string, value: string) => void;
} {
  const [params, setParams] = useSearchParams();
  const question = new URLSearchParams([...params].filter(([, v]) => v !== '')).toString();
  const set = (key: string, value: string) => {
    const next = addressNow();
    if (value) next.set(key, value);
    else next.delete(key);
    setParams(next, { replace: true });
  };
  return { question, part: key => params.get(key) ?? '', set };
}
