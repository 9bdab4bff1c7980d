import { Among, KeptQuestion, OrderCount } from '@auk/contract';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { get, send } from '../api.js';
import { Ask } from '../parts/ask.js';
import { countWords } from '../parts/words.js';
import { questionOf } from './question.js';

interface Props {
  asked: URLSearchParams;
  ask: (question: string) => void;
  set: (key: string, value: string) => void;
}

/** Under the sentence: numbers among what it found, one act that clears it, and the questions a person keeps, with their counts. */
export function KeptQuestions({ asked, ask, set }: Props) {
  const [naming, setNaming] = useState(false);
  const [name, setName] = useState('');
  const client = useQueryClient();
  const question = questionOf(asked);
  const among = useQuery({
    queryKey: ['orders', 'among', question],
    queryFn: () => get(Among, `orders/among?${filterOnly(asked)}`),
  });
  const kept = useQuery({
    queryKey: ['orders', 'questions'],
    queryFn: () => get(KeptQuestion.array(), 'orders/questions'),
  });
  const again = () => {
    setNaming(false);
    setName('');
    void client.invalidateQueries({ queryKey: ['orders', 'questions'] });
  };
  const keep = useMutation({
    mutationFn: () => send('orders/questions', { name, question }),
    onSuccess: again,
  });
  const forget = useMutation({
    mutationFn: (id: string) => send(`orders/questions/${id}/forget`),
    onSuccess: again,
  });
  const find: [words: string, count: OrderCount | undefined, key: string, value: string][] = [
    ['stopped', among.data?.stopped, 'stage', 'Stopped'],
    ['short', among.data?.short, 'stage', 'Short'],
    ['to one address', among.data?.together, 'together', 'yes'],
    ['starred', among.data?.starred, 'starred', 'yes'],
  ];
  return (
    <div className="among">
      <span>among them</span>
      {find.map(([words, c, key, value]) => (
        <button key={words} type="button" onClick={() => set(key, value)}>
          <b>{countWords(c)}</b> {words}
        </button>
      ))}
      {question !== '' && (
        <button type="button" className="act" onClick={() => ask('')}>
          clear
        </button>
      )}
      {question !== '' && !kept.data?.some(k => k.question === question) && (
        <button type="button" className="act" onClick={() => setNaming(true)}>
          keep this question
        </button>
      )}
      {kept.data && kept.data.length > 0 && <span className="rule" />}
      {kept.data?.map(k => (
        <span key={k.id} className={k.question === question ? 'kept here' : 'kept'}>
          <button type="button" onClick={() => ask(k.question)}>
            <b>{countWords(k.count)}</b> {k.name}
          </button>
          <button
            type="button"
            className="drop-clause"
            aria-label={`Forget ${k.name}`}
            onClick={() => forget.mutate(k.id)}
          >
            ×
          </button>
        </span>
      ))}
      {naming && (
        <Ask
          title="Keep this question"
          act="Keep"
          ready={name.trim() !== ''}
          busy={keep.isPending}
          error={keep.error}
          onLeave={() => setNaming(false)}
          onAct={() => keep.mutate()}
        >
          <TextField
            label="Call it"
            fullWidth
            autoFocus
            margin="dense"
            value={name}
            onChange={e => setName(e.target.value)}
          />
        </Ask>
      )}
    </div>
  );
}

function filterOnly(asked: URLSearchParams): URLSearchParams {
  const filter = new URLSearchParams(questionOf(asked));
  filter.delete('sort');
  return filter;
}
