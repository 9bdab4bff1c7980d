import TextField from '@mui/material/TextField';
import { useEffect, useRef, useState } from 'react';

interface Props {
  label: string;
  /** What is asked at the moment, as the address has it. */
  value: string;
  /** Told when typing pauses, and at once on Enter. */
  onAsk: (words: string) => void;
}

/** Typing pauses when no letter came for so long. */
const PAUSE_MS = 250;

/** Words to find something by. The field keeps what is typed, however slow the page is; the question follows when typing pauses. */
export function SearchField({ label, value, onAsk }: Props) {
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
  return (
    <TextField
      label={label}
      type="search"
      value={text}
      onChange={e => {
        const words = e.target.value;
        setText(words);
        clearTimeout(timer.current);
        timer.current = setTimeout(() => ask(words), PAUSE_MS);
      }}
      onKeyDown={e => e.key === 'Enter' && ask(text)}
    />
  );
}
