import TextField from '@mui/material/TextField';
import { useSearch } from './useSearch.js';

interface Props {
  label: string;
  /** What is asked at the moment, as the address has it. */
  value: string;
  onAsk: (words: string) => void;
}

/** Words to find something by; what is found follows them. */
export function SearchField({ label, value, onAsk }: Props) {
  return <TextField label={label} type="search" {...useSearch(value, onAsk)} />;
}
