import { useEffect, useState } from 'react';

interface Props {
  label: string;
  value: string;
  onSave: (value: string) => void;
  readOnly?: boolean;
  wide?: boolean;
  placeholder?: string;
  list?: string;
  type?: string;
}

/** A value that is changed in place: it looks like text, is a field when focused, saves on Enter or when left, and Escape puts back what stood there. */
export function Field({ label, value, onSave, readOnly, wide, placeholder, list, type }: Props) {
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  const save = () => {
    if (text.trim() !== value.trim()) onSave(text.trim());
  };
  return (
    <input
      className={wide ? 'field wide' : 'field'}
      aria-label={label}
      title={label}
      type={type}
      list={list}
      value={text}
      readOnly={readOnly}
      placeholder={placeholder ?? (readOnly ? '' : label)}
      onChange={e => setText(e.target.value)}
      onBlur={save}
      onKeyDown={e => {
        if (e.key === 'Enter') e.currentTarget.blur();
        if (e.key === 'Escape') {
          e.stopPropagation();
          setText(value);
        }
      }}
    />
  );
}
