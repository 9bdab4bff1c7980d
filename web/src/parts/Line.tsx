import TextField from '@mui/material/TextField';
import type { ChangeEvent, FocusEvent, KeyboardEvent, Ref } from 'react';

interface Props {
  label: string;
  value: string;
  onType: (text: string) => void;
  /** The label is read aloud and not shown: what stands around the field says it. */
  bare?: boolean;
  placeholder?: string;
  /** Digits only; a phone shows its numbers. */
  digits?: boolean;
  /** Codes are in capitals. */
  capitals?: boolean;
  /** Width in rem; without it, all there is. */
  width?: number;
  most?: number;
  hint?: string;
  wrong?: string | null;
  disabled?: boolean;
  autoFocus?: boolean;
  password?: boolean;
  rows?: number;
  inputRef?: Ref<HTMLInputElement>;
  onKeyDown?: (e: KeyboardEvent<HTMLElement>) => void;
  onBlur?: (e: FocusEvent<HTMLElement>) => void;
}

/** One line to type into. */
export function Line(props: Props) {
  const { label, value, onType, bare, digits, capitals, width, hint, wrong, password, rows } = props;
  const read = (e: ChangeEvent<HTMLInputElement>) => {
    const text = digits ? e.target.value.replace(/\D/g, '') : e.target.value;
    onType(capitals ? text.toUpperCase() : text);
  };
  return (
    <TextField
      {...(!bare && { label })}
      value={value}
      onChange={read}
      placeholder={props.placeholder}
      disabled={props.disabled}
      autoFocus={props.autoFocus}
      type={password ? 'password' : 'text'}
      autoComplete="off"
      error={!!wrong}
      helperText={wrong || hint}
      {...(rows && { multiline: true, minRows: rows })}
      inputRef={props.inputRef}
      onKeyDown={props.onKeyDown}
      onBlur={props.onBlur}
      {...(width === undefined ? { fullWidth: true } : { sx: { width: `${width}rem` } })}
      slotProps={{
        htmlInput: {
          ...(bare && { 'aria-label': label }),
          ...(digits && { inputMode: 'numeric' }),
          maxLength: props.most,
        },
      }}
    />
  );
}
