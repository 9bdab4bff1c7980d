import Autocomplete from '@mui/material/Autocomplete';
import TextField from '@mui/material/TextField';

interface Props {
  label: string;
  value: readonly string[];
  options: readonly string[];
  /** What an option is called, where it is a code. */
  called?: (word: string) => string;
  /** Words that are not offered may be typed. */
  typed?: boolean;
  onChange: (words: string[]) => void;
}

/** Some of many words, each put in by choosing or typing it. */
export function Words({ label, value, options, called = w => w, typed = true, onChange }: Props) {
  return (
    <Autocomplete
      multiple
      size="small"
      freeSolo={typed}
      autoHighlight={!typed}
      // The same array as long as nothing changes: another one would empty what is being typed.
      value={value as string[]}
      options={[...options]}
      getOptionLabel={called}
      onChange={(_, words) => onChange([...new Set(words.map(w => w.trim()).filter(w => w !== ''))])}
      onBlur={e => {
        const text = (e.target as HTMLInputElement).value?.trim();
        if (typed && text && !value.includes(text)) onChange([...value, text]);
      }}
      clearOnBlur
      renderInput={({ slotProps, ...params }) => (
        <TextField
          {...params}
          slotProps={{ ...slotProps, htmlInput: { ...slotProps.htmlInput, 'aria-label': label } }}
          placeholder={value.length === 0 ? label : ''}
        />
      )}
      sx={{ minWidth: '12rem', flex: 1 }}
    />
  );
}
