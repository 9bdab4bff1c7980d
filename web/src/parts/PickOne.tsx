import Autocomplete from '@mui/material/Autocomplete';
import TextField from '@mui/material/TextField';
import { type ReactNode, type Ref, useState } from 'react';

interface Props<T> {
  label: string;
  bare?: boolean;
  placeholder?: string;
  value: T | null;
  onPick: (thing: T | null) => void;
  /** What fits the words that are typed now; nothing while that is not known, so that Enter never takes what fitted earlier words. */
  options: readonly T[];
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

/** One of many, found by typing. */
export function PickOne<T>(props: Props<T>) {
  const {
    label,
    bare,
    placeholder,
    value,
    onPick,
    options,
    wordsOf,
    keyOf,
    show,
    onWords,
    ofWords,
    emptied,
  } = props;
  const [words, setWords] = useState('');
  const [open, setOpen] = useState(false);
  const asked = onWords !== undefined;
  const type = (typed: string) => {
    setWords(typed);
    onWords?.(typed);
  };
  const pick = (thing: T | string | null) => {
    type('');
    onPick(typeof thing === 'string' ? ofWords!(thing) : thing);
  };
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
      {...(asked && { filterOptions: (all: T[]) => all })}
      {...(emptied && { inputValue: words })}
      getOptionLabel={thing => (typeof thing === 'string' ? thing : wordsOf(thing))}
      getOptionKey={thing => (typeof thing === 'string' ? thing : keyOf(thing))}
      isOptionEqualToValue={(a, b) => typeof b !== 'string' && keyOf(a) === keyOf(b)}
      groupBy={props.groupOf}
      onInputChange={(_, typed, why) => why === 'input' && type(typed)}
      onChange={(_, thing) => pick(thing)}
      onBlur={() => ofWords && !emptied && words.trim() !== '' && pick(words.trim())}
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
