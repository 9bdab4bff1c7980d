import NativeSelect from '@mui/material/NativeSelect';
import TextField from '@mui/material/TextField';
import { type Ref, useId } from 'react';

export type Options<V extends string = string> = readonly (readonly [value: V, words: string])[];

interface Props<V extends string> {
  label: string;
  value: V;
  options: Options<V>;
  onChoose: (value: V) => void;
  disabled?: boolean;
  /** The label is read aloud and not shown: what stands around the choice says it. */
  bare?: boolean;
  /** Stands within a sentence, in its type. */
  inSentence?: boolean;
  fullWidth?: boolean;
  inputRef?: Ref<HTMLSelectElement>;
}

/** One of a few: opened by keyboard and on glass as the device does it best. */
export function Choice<V extends string>(props: Props<V>) {
  const { label, value, options, onChoose, disabled, bare, inSentence, fullWidth, inputRef } = props;
  const id = useId();
  const choices = options.map(([v, words]) => (
    <option key={v} value={v}>
      {words}
    </option>
  ));
  const onChange = (e: { target: { value: string } }) => onChoose(e.target.value as V);
  if (inSentence)
    return (
      <NativeSelect
        value={value}
        disabled={disabled}
        onChange={onChange}
        disableUnderline
        IconComponent={() => null}
        inputRef={inputRef}
        inputProps={{ 'aria-label': label }}
        sx={{
          font: 'inherit',
          fontWeight: 700,
          verticalAlign: 'baseline',
          '& select': {
            font: 'inherit',
            height: 'auto',
            minWidth: 0,
            fieldSizing: 'content',
            padding: '0 !important',
            borderBottom: '2px dotted var(--act)',
          },
        }}
      >
        {choices}
      </NativeSelect>
    );
  return (
    <TextField
      select
      id={id}
      value={value}
      disabled={disabled}
      fullWidth={fullWidth}
      onChange={onChange}
      {...(!bare && { label })}
      slotProps={{
        select: { native: true },
        htmlInput: { ...(bare && { 'aria-label': label }), ref: inputRef },
      }}
    >
      {choices}
    </TextField>
  );
}
