import FormHelperText from '@mui/material/FormHelperText';
import Input from '@mui/material/Input';
import { useEffect, useId, useState } from 'react';

interface Props {
  label: string;
  value: string;
  /** Saves what was typed; answers what is wrong with it when it cannot be read. */
  onSave: (value: string) => string | null | undefined;
  readOnly?: boolean;
  placeholder?: string;
  /** Numbers stand at the right. */
  right?: boolean;
  /** As large as a title. */
  title?: boolean;
}

/**
 * A value that is changed in place: it looks like text, is a field when focused, saves on Enter or when left, and Escape puts back
 * what stood there. What cannot be read stays as typed, marked, with what is accepted.
 */
export function Field({ label, value, onSave, readOnly, placeholder, right, title }: Props) {
  const [text, setText] = useState(value);
  const [wrong, setWrong] = useState<string | null>(null);
  const id = useId();
  useEffect(() => {
    setText(value);
    setWrong(null);
  }, [value]);
  const save = () => {
    if (text.trim() === value.trim()) return setWrong(null);
    setWrong(onSave(text.trim()) ?? null);
  };
  return (
    <>
      <Input
        fullWidth
        value={text}
        readOnly={readOnly}
        disableUnderline={readOnly}
        placeholder={placeholder ?? (readOnly ? '' : label)}
        error={wrong !== null}
        onChange={e => setText(e.target.value)}
        onBlur={save}
        onKeyDown={e => {
          if (e.key === 'Enter') (e.target as HTMLElement).blur();
          if (e.key === 'Escape') {
            e.stopPropagation();
            setText(value);
            setWrong(null);
          }
        }}
        inputProps={{
          'aria-label': label,
          title: label,
          ...(wrong && { 'aria-describedby': id }),
          ...(right && { style: { textAlign: 'right' } }),
        }}
        sx={{
          ...(title ? { font: 'inherit' } : { font: 'inherit', color: 'inherit' }),
          fontVariantNumeric: 'tabular-nums',
        }}
      />
      {wrong && (
        <FormHelperText id={id} error role="alert">
          {wrong}
        </FormHelperText>
      )}
    </>
  );
}
