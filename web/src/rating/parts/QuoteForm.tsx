import Button from '@mui/material/Button';
import { useState } from 'react';
import { Form } from '../../parts/Form.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { Tick } from '../../parts/Tick.js';
import textCss from '../../parts/text.module.css';
import { quoteOf } from '../question.js';

interface Props {
  asked: URLSearchParams;
  set: (changes: Record<string, string>) => void;
}

/** A parcel without an order: where it goes, how large and heavy it is. */
export function QuoteForm({ asked, set }: Props) {
  const [typed, setTyped] = useState({
    postcode: asked.get('postcode') ?? '',
    country: asked.get('country') ?? 'US',
    weight: asked.get('weight') ?? '',
    size: asked.get('size') ?? '',
    home: asked.get('home') ?? '',
  });
  const read = quoteOf(new URLSearchParams(typed));
  const touched = typed.postcode !== '' && typed.weight !== '' && typed.size !== '';
  const field = (
    key: 'postcode' | 'country' | 'weight' | 'size',
    label: string,
    width: number,
    hint: string,
  ) => (
    <Line
      label={label}
      width={width}
      value={typed[key]}
      placeholder={hint}
      capitals={key === 'country' || key === 'postcode'}
      autoFocus={key === 'postcode'}
      most={key === 'country' ? 2 : 20}
      onType={text => setTyped({ ...typed, [key]: text })}
    />
  );
  return (
    <Form
      className={`${pageCss.fields} ${pageCss.bulk}`}
      label="A parcel"
      ready={read.ok}
      onSend={() => set(typed)}
    >
      {field('postcode', 'Postcode', 8, '83702')}
      {field('country', 'Country', 5, 'US')}
      {field('weight', 'Weight', 8, '2 lb 3 oz')}
      {field('size', 'Size', 11, '11x9x4 in')}
      <Tick
        label="a home"
        checked={typed.home !== 'no'}
        onTick={home => setTyped({ ...typed, home: home ? '' : 'no' })}
      />
      <Button type="submit" variant="outlined" color="secondary" disabled={!read.ok}>
        Ask for prices
      </Button>
      {touched && !read.ok && <span className={textCss.stop}>{read.problem}</span>}
    </Form>
  );
}
