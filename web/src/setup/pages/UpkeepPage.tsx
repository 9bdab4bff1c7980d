import { Keep } from '@auk/contract';
import Button from '@mui/material/Button';
import Stack from '@mui/material/Stack';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Form } from '../../parts/Form.js';
import { Head } from '../../parts/Head.js';
import { Line } from '../../parts/Line.js';
import { ProblemNote } from '../../parts/problem.js';
import { say } from '../../parts/say.js';
import { keepQuery, setKeep } from '../api.js';
import { SetupNav } from '../parts/SetupNav.js';

const FIELDS: [keyof Keep, label: string, about: string, least: number][] = [
  [
    'scansDays',
    'Scans and acts, in days',
    'Every scan with its answer, so that one sent twice counts once. Older ones that come again are refused.',
    401,
  ],
  ['filesDays', 'Reports of files, in days', 'What became of each row of a file that was brought in.', 7],
  [
    'jobsDays',
    'Work that is done, in days',
    'Channels told, files taken in and papers printed, as the server notes them.',
    1,
  ],
  ['photosDays', 'Photos of open boxes, in days', 'What the benches took, to answer a buyer.', 1],
];

/** How long what is done is kept. Orders, stock and money are kept for ever. */
export default function UpkeepPage() {
  const keep = useQuery(keepQuery);
  return (
    <>
      <SetupNav />
      <Head
        title="Upkeep"
        about="How long Auk keeps what is done. Orders, stock, labels and their history are never forgotten."
      />
      <ProblemNote error={keep.error} />
      {keep.data && <KeepForm keep={keep.data} />}
    </>
  );
}

function KeepForm({ keep }: { keep: Keep }) {
  const [days, setDays] = useState(() => Object.fromEntries(FIELDS.map(([f]) => [f, String(keep[f])])));
  const client = useQueryClient();
  const save = useMutation({
    mutationFn: () => setKeep(Object.fromEntries(FIELDS.map(([f]) => [f, Number(days[f])]))),
    onSuccess: () => {
      say('Kept so from now on.');
      return client.invalidateQueries(keepQuery);
    },
  });
  const tooFew = (field: keyof Keep, least: number) => Number(days[field]) < least;
  const ready = !save.isPending && !FIELDS.some(([f, , , least]) => tooFew(f, least));
  return (
    <Form onSend={() => save.mutate()} ready={ready}>
      <Stack spacing={3} sx={{ maxWidth: 560, mt: 2 }}>
        {FIELDS.map(([field, label, about, least]) => (
          <Line
            key={field}
            label={label}
            digits
            most={5}
            hint={`${about} At least ${least}.`}
            wrong={tooFew(field, least) ? `${about} At least ${least}.` : null}
            value={days[field] ?? ''}
            onType={text => {
              save.reset();
              setDays({ ...days, [field]: text });
            }}
          />
        ))}
        <ProblemNote error={save.error} />
        <Stack direction="row" spacing={2} sx={{ alignItems: 'center' }}>
          <Button type="submit" variant="contained" disabled={!ready}>
            Save
          </Button>
        </Stack>
      </Stack>
    </Form>
  );
}
