import Autocomplete, { createFilterOptions } from '@mui/material/Autocomplete';
import TextField from '@mui/material/TextField';
import { type ReactNode, type Ref, type SyntheticEvent, useEffect, useState } from 'react';

interface Props<T> {
  label: string;
  bare?: boolean;
  placeholder?: string;
  value: T | null;
  onPick: (thing: T | null) => void;
  options: readonly T[];
  /** What fits the words that are typed now is still being asked for: the options are those of earlier words, and Enter waits. */
  late?: boolean;
  wordsOf: (thing: T) => string;
  keyOf: (thing: T) => string;
  show: (thing: T) => ReactNode;
  groupOf?: (thing: T) => string;
  /** Told what is typed, where the options are asked for; without it they are all there. */
  onWords?: (words: string) => void;
  /** Takes what is typed whole, where nothing is picked. */
  ofWords?: (words: string) => T;
  disabled?: boolean;
  /** Emptied once something is picked, for the next. */
  emptied?: boolean;
  inputRef?: Ref<HTMLInputElement>;
}

/** What is typed, whether the options are shown, and what Enter takes of them. */
function useTyped<T>({ options, late = false, wordsOf, ofWords, onWords, onPick }: Props<T>) {
  const [words, setWords] = useState('');
  const [open, setOpen] = useState(false);
  const [waits, setWaits] = useState(false);
  const filter = onWords ? (all: T[]) => all : createFilterOptions<T>();
  const type = (typed: string) => {
    setWords(typed);
    setWaits(false);
    onWords?.(typed);
  };
  const pick = (thing: T | null) => {
    type('');
    onPick(thing);
  };
  const choose = (e: SyntheticEvent, thing: T | string | null) => {
    const byKey = e.type === 'keydown';
    // Enter picks here, and does not send the form that this stands in.
    if (byKey) e.preventDefault();
    if (late && byKey && thing !== null) setWaits(true);
    // The first that fits is marked, and is what Enter takes; words that fit nothing are taken as they are.
    else if (typeof thing === 'string')
      pick(filter([...options], { inputValue: thing, getOptionLabel: wordsOf })[0] ?? ofWords!(thing));
    else pick(thing);
  };
  // Enter came before the answer: what alone fits is taken then, and among several a person chooses.
  useEffect(() => {
    if (!waits || late) return;
    setWaits(false);
    if (options.length > 1) setOpen(true);
    else if (options.length === 1 || ofWords) pick(options[0] ?? ofWords!(words.trim()));
  });
  return { words, type, open, setOpen, filter, pick, choose };
}

/** One of many, found by typing. */
export function PickOne<T>(props: Props<T>) {
  const { label, bare, placeholder, value, options, wordsOf, keyOf, show, ofWords, emptied } = props;
  const { words, type, open, setOpen, filter, pick, choose } = useTyped(props);
  const asked = props.onWords !== undefined;
  return (
    <Autocomplete<T, false, false, boolean>
      size="small"
      fullWidth
      freeSolo={ofWords !== undefined}
      forcePopupIcon={!asked}
      openOnFocus={!asked}
      autoHighlight
      clearOnBlur={ofWords === undefined}
      value={value}
      options={options as T[]}
      disabled={props.disabled}
      noOptionsText="Nothing is called so."
      open={open && (!asked || options.length > 0)}
      onOpen={() => setOpen(true)}
      onClose={() => setOpen(false)}
      filterOptions={filter}
      {...(emptied && { inputValue: words })}
      getOptionLabel={thing => (typeof thing === 'string' ? thing : wordsOf(thing))}
      getOptionKey={thing => (typeof thing === 'string' ? thing : keyOf(thing))}
      isOptionEqualToValue={(a, b) => typeof b !== 'string' && keyOf(a) === keyOf(b)}
      groupBy={props.groupOf}
      onInputChange={(_, typed, why) => why === 'input' && type(typed)}
      onChange={choose}
      onBlur={() => ofWords && !emptied && words.trim() !== '' && pick(ofWords(words.trim()))}
      renderOption={({ key, ...li }, thing) => (
        <li key={key} {...li}>
          {show(thing)}
        </li>
      )}
      renderInput={({ slotProps, ...params }) => (
        <TextField
          {...params}
          {...(!bare && { label })}
          placeholder={placeholder}
          inputRef={props.inputRef}
          slotProps={{
            ...slotProps,
            htmlInput: { ...slotProps.htmlInput, ...(bare && { 'aria-label': label }) },
          }}
        />
      )}
    />
  );
}
