import { useSearchParams } from 'react-router';

/** The question that a list's address holds: as a text (empty parts left out), by part, and a way to change one part. */
export function useQuestion(): {
  question: string;
  part: (key: string) => string;
  set: (key: string, value: string) => void;
} {
  const [params, setParams] = useSearchParams();
  const question = new URLSearchParams([...params].filter(([, v]) => v !== '')).toString();
  const set = (key: string, value: string) =>
    setParams(
      before => {
        const next = new URLSearchParams(before);
        if (value) next.set(key, value);
        else next.delete(key);
        return next;
      },
      { replace: true },
    );
  return { question, part: key => params.get(key) ?? '', set };
}
