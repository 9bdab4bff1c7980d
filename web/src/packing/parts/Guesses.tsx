import type { Guess } from '@auk/contract';
import { parseSize, parseWeight } from '@auk/core';
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { changed } from '../../asked.js';
import { Drop } from '../../parts/Drop.js';
import { Form } from '../../parts/Form.js';
import { size, weight } from '../../parts/format.js';
import { Line } from '../../parts/Line.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import textCss from '../../parts/text.module.css';
import { keepGuesses } from '../api.js';

/** What a product without size or weight counts as, by its category: prices hang on it, so it is marked as a guess wherever it counts. */
export function Guesses({ guesses, may }: { guesses: Guess[]; may: boolean }) {
  const client = useQueryClient();
  const [typed, setTyped] = useState({ category: '', size: '', weight: '' });
  const save = useMutation({
    mutationFn: keepGuesses,
    onSuccess: () => setTyped({ category: '', size: '', weight: '' }),
    onSettled: () => changed(client, 'boxes'),
  });
  const [sides, mg] = [parseSize(typed.size), parseWeight(typed.weight)];
  const add = () => {
    if (sides.ok && mg.ok)
      save.mutate([...guesses, { category: typed.category, ...sides.value, weightMg: mg.value }]);
  };
  return (
    <section>
      <h2>Guesses</h2>
      <p className={textCss.quiet}>
        What a product without size or weight counts as when services are compared. Give products a category
        under Products, and each category its guess here.
      </p>
      {guesses.map(g => (
        <div key={g.category}>
          <b>{g.category || 'everything else'}</b> {size(g)}, {weight(g.weightMg)}
          {may && g.category !== '' && (
            <Drop
              label={`No guess for ${g.category} any more`}
              onDrop={() => save.mutate(guesses.filter(x => x !== g))}
            />
          )}
        </div>
      ))}
      {may && (
        <Form
          className={pageCss.fields}
          label="A guess"
          ready={sides.ok && mg.ok && !save.isPending}
          onSend={add}
        >
          <Line
            label="Category (empty: everything else)"
            width={15}
            value={typed.category}
            onType={category => setTyped({ ...typed, category })}
          />
          <Line
            label="Size"
            placeholder="6x4x2 in"
            width={9}
            value={typed.size}
            onType={t => setTyped({ ...typed, size: t })}
          />
          <Line
            label="Weight"
            placeholder="8 oz"
            width={7}
            value={typed.weight}
            onType={t => setTyped({ ...typed, weight: t })}
          />
          <Button
            type="submit"
            variant="outlined"
            color="secondary"
            disabled={!sides.ok || !mg.ok || save.isPending}
          >
            Guess so
          </Button>
        </Form>
      )}
      <ProblemNote error={save.error} />
    </section>
  );
}
