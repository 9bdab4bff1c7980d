import type { RuleBookView } from '@auk/contract';
import { bookDifferences, count, type RuleBook } from '@auk/core';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Refused } from '../../api.js';
import { changed } from '../../asked.js';
import { Form } from '../../parts/Form.js';
import pageCss from '../../parts/page.module.css';
import { ProblemNote } from '../../parts/problem.js';
import { say } from '../../parts/say.js';
import textCss from '../../parts/text.module.css';
import { saveBook } from '../api.js';
import { hasUnnamed, isComplete } from '../draft.js';

interface Props {
  draft: { base: number; book: RuleBook };
  view: RuleBookView;
  onSaved: () => void;
  onLeave: () => void;
  /** Whoever saves has seen what another saved meanwhile, and saves over it. */
  onTakeOver: (base: number) => void;
}

/** What is written and not saved: what would change, and the two ways on. */
export function SaveBar({ draft, view, onSaved, onLeave, onTakeOver }: Props) {
  const client = useQueryClient();
  const [note, setNote] = useState('');
  const save = useMutation({
    mutationFn: () => saveBook(draft.base, draft.book, note),
    onSuccess: async ({ no }) => {
      await changed(client, 'rules');
      say(`Saved as book ${no}.`);
      onSaved();
    },
  });
  const differences = bookDifferences(view.book, draft.book);
  const unnamed = hasUnnamed(draft.book);
  const wrong = !isComplete(draft.book, view.currency);
  const meanwhile = save.error instanceof Refused && save.error.problem.status === 409;
  return (
    <Form label="Save the book" onSend={() => save.mutate()} ready={!save.isPending && !wrong && !meanwhile}>
      <b>
        Not saved yet:{' '}
        {differences.length === 0 ? 'order or groups differ' : count(differences.length, 'rule')}
      </b>
      <ul className={textCss.plain}>
        {differences.map(d => (
          <li key={d.id}>
            {d.name || 'a new rule'}: {d.how}
          </li>
        ))}
      </ul>
      <TextField
        label="What was changed, in your words"
        value={note}
        fullWidth
        onChange={e => setNote(e.target.value.slice(0, 200))}
      />
      <ProblemNote error={save.error} />
      <div className={pageCss.inline}>
        {meanwhile ? (
          // A button of its own: the press that takes it away must not send the form.
          <Button
            key="over"
            variant="outlined"
            onClick={() => {
              save.reset();
              onTakeOver(view.no);
            }}
          >
            Save over book {view.no}
          </Button>
        ) : (
          <Button key="save" type="submit" variant="contained" disabled={save.isPending || wrong}>
            Save as book {view.no + 1}
          </Button>
        )}
        <Button onClick={onLeave}>Leave it</Button>
        {wrong && (
          <span className={textCss.quiet}>{unnamed ? 'A rule has no name.' : 'A rule is not complete.'}</span>
        )}
      </div>
    </Form>
  );
}
