import InputBase from '@mui/material/InputBase';
import sentenceCss from './sentence.module.css';

interface Props {
  label: string;
  value: number;
  least: number;
  most: number;
  onType: (n: number) => void;
}

/** A number within a sentence. What is no number, or beyond what it may be, goes back to what was there. */
export function TypedNumber({ label, value, least, most, onType }: Props) {
  const take = (field: HTMLInputElement) => {
    const n = Number(field.value.replace(',', '.'));
    const good = field.value.trim() !== '' && n >= least && n <= most;
    field.value = String(good ? n : value);
    if (good && n !== value) onType(n);
  };
  return (
    <InputBase
      key={value}
      defaultValue={String(value)}
      className={sentenceCss.typed}
      onBlur={e => take(e.target as HTMLInputElement)}
      onKeyDown={e => e.key === 'Enter' && take(e.target as HTMLInputElement)}
      inputProps={{ 'aria-label': label, inputMode: 'decimal' }}
    />
  );
}
