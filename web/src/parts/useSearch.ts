import { type ChangeEvent, type KeyboardEvent, useEffect, useRef, useState } from 'react';

/** Typing pauses when no letter came for so long. */
const PAUSE_MS = 250;

/**
 * What a field needs whose words find something. It keeps what is typed, however slow the page is; the question follows when typing
 * pauses, and at once on Enter. `value` is what is asked at the moment, as the address has it.
 */
export function useSearch(value: string, onAsk: (words: string) => void) {
  const [text, setText] = useState(value);
  const asked = useRef(value);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const page = useRef(window.location.pathname);
  const ask = (words: string) => {
    clearTimeout(timer.current);
    // Who has gone on to another page meanwhile is not called back.
    if (window.location.pathname !== page.current) return;
    asked.current = words;
    onAsk(words);
  };
  useEffect(() => () => clearTimeout(timer.current), []);
  // Another question came from elsewhere (a link, a way back): the field shows it.
  useEffect(() => {
    if (value === asked.current) return;
    asked.current = value;
    setText(value);
  }, [value]);
  return {
    value: text,
    onChange: (e: ChangeEvent<HTMLInputElement | HTMLTextAreaElement>) => {
      const words = e.target.value;
      setText(words);
      clearTimeout(timer.current);
      timer.current = setTimeout(() => ask(words), PAUSE_MS);
    },
    onKeyDown: (e: KeyboardEvent) => {
      if (e.key === 'Enter') ask(text);
    },
  };
}
