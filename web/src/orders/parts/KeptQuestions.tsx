import { OrderCount } from '@auk/contract';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Ask } from '../../parts/ask.js';
import { Drop } from '../../parts/Drop.js';
import { Line } from '../../parts/Line.js';
import { countWords } from '../../parts/words.js';
import { amongQuery, forgetQuestion, keepQuestion, keptQuestionsQuery } from '../api.js';
import css from '../orders.module.css';
import { questionOf } from '../question.js';

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
  const among = useQuery(amongQuery(String(filterOnly(asked))));
  const kept = useQuery(keptQuestionsQuery);
  const again = () => {
    setNaming(false);
    setName('');
    void client.invalidateQueries(keptQuestionsQuery);
  };
  const keep = useMutation({
    mutationFn: () => keepQuestion(name, question),
    onSuccess: again,
  });
  const forget = useMutation({
    mutationFn: forgetQuestion,
    onSuccess: again,
  });
  const find: [words: string, count: OrderCount | undefined, key: string, value: string][] = [
    ['stopped', among.data?.stopped, 'stage', 'Stopped'],
    ['short', among.data?.short, 'stage', 'Short'],
    ['to one address', among.data?.together, 'together', 'yes'],
    ['starred', among.data?.starred, 'starred', 'yes'],
  ];
  return (
    <div className={css.among}>
      <span>among them</span>
      {find.map(([words, c, key, value]) => (
        <Button key={words} size="small" color="inherit" onClick={() => set(key, value)}>
          <b>{countWords(c)}</b>&nbsp;{words}
        </Button>
      ))}
      {question !== '' && (
        <Button size="small" onClick={() => ask('')}>
          clear
        </Button>
      )}
      {question !== '' && !kept.data?.some(k => k.question === question) && (
        <Button size="small" onClick={() => setNaming(true)}>
          keep this question
        </Button>
      )}
      {kept.data && kept.data.length > 0 && <span className={css.rule} />}
      {kept.data?.map(k => (
        <span key={k.id} className={k.question === question ? `${css.kept} ${css.here}` : css.kept}>
          <Button size="small" color="inherit" onClick={() => ask(k.question)}>
            <b>{countWords(k.count)}</b>&nbsp;{k.name}
          </Button>
          <Drop label={`Forget ${k.name}`} onDrop={() => forget.mutate(k.id)} />
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
          <Line label="Call it" autoFocus value={name} onType={setName} />
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
