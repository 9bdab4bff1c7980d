import { parseAmount } from '@auk/core';
import InputBase from '@mui/material/InputBase';
import { Choice } from '../../parts/Choice.js';
import sentenceCss from '../../parts/sentence.module.css';

interface Props {
  asked: URLSearchParams;
  set: (changes: Record<string, string>) => void;
  currency: string;
  /** Whether it is known what is in the parcels. */
  known: boolean;
}

/** What is asked beside carrying, as a sentence whose words are changed. */
export function Asked({ asked, set, currency, known }: Props) {
  const one = (key: string, label: string, options: readonly (readonly [string, string])[]) => (
    <Choice
      inSentence
      label={label}
      value={asked.get(key) ?? ''}
      options={options}
      onChoose={value => set({ [key]: value })}
    />
  );
  return (
    <p className={`${sentenceCss.sentence} ${sentenceCss.small}`} data-part="asked">
      with{' '}
      {one('signature', 'Signature', [
        ['', 'no signature'],
        ['yes', 'a signature'],
      ])}
      , declared at{known && ' '}
      {known &&
        one('insured', 'Declared at', [
          ['', 'a value of'],
          ['yes', 'what is in it'],
        ])}
      {!(known && asked.get('insured') === 'yes') && (
        <>
          {' '}
          <Amount
            label="Declared value"
            value={asked.get('value') ?? ''}
            currency={currency}
            set={v => set({ value: v })}
          />
        </>
      )}
      ,{' '}
      {one('over', 'Handed over', [
        ['', 'collected here'],
        ['counter', 'brought to a counter'],
      ])}
      , brought{' '}
      {one('to', 'Brought to', [
        ['', 'to the door'],
        ['point', 'to a pick-up point'],
      ])}
      ,{' '}
      {one('saturday', 'Saturday', [
        ['', 'not on Saturdays'],
        ['yes', 'on Saturdays too'],
      ])}
      , and{' '}
      <Amount
        label="Paid at the door"
        value={asked.get('cash') ?? ''}
        currency={currency}
        set={v => set({ cash: v })}
      />{' '}
      paid at the door.
    </p>
  );
}

function Amount({
  label,
  value,
  currency,
  set,
}: {
  label: string;
  value: string;
  currency: string;
  set: (text: string) => void;
}) {
  const take = (field: HTMLInputElement) => {
    const read = parseAmount(field.value, currency);
    const good = read.ok && read.value > 0 ? field.value.trim() : '';
    field.value = good || 'nothing';
    if (good !== value) set(good);
  };
  return (
    <InputBase
      key={value}
      defaultValue={value || 'nothing'}
      className={sentenceCss.typed}
      onFocus={e => e.target.select()}
      onBlur={e => take(e.target as HTMLInputElement)}
      onKeyDown={e => e.key === 'Enter' && take(e.target as HTMLInputElement)}
      inputProps={{ 'aria-label': label, inputMode: 'decimal' }}
    />
  );
}
