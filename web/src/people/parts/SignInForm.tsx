import { parseScan } from '@auk/core';
import Button from '@mui/material/Button';
import Stack from '@mui/material/Stack';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { Form } from '../../parts/Form.js';
import { Line } from '../../parts/Line.js';
import { ProblemNote } from '../../parts/problem.js';
import { useScanner } from '../../scans/useScanner.js';
import { meQuery, signIn } from '../api.js';

/** Badge and PIN. Over a screen it takes badges only: a piece that is scanned meanwhile is the screen’s. */
export function SignInForm({ over = false }: { over?: boolean }) {
  const [badge, setBadge] = useState('');
  const [pin, setPin] = useState('');
  const pinField = useRef<HTMLInputElement>(null);
  const client = useQueryClient();
  const coming = useMutation({
    mutationFn: () => signIn(badge, pin),
    onSuccess: person => client.setQueryData(meQuery.queryKey, person),
  });
  useScanner(
    text => {
      setBadge(text.toUpperCase());
      pinField.current?.focus();
    },
    { takes: text => !over || isBadge(text) },
  );
  return (
    <Form onSend={() => coming.mutate()} ready={!coming.isPending && badge !== '' && pin !== ''}>
      <Stack spacing={1.5}>
        <Line
          label="Badge"
          value={badge}
          onType={setBadge}
          autoFocus
          onKeyDown={e => {
            if (e.key !== 'Enter' || pin !== '') return;
            e.preventDefault();
            pinField.current?.focus();
          }}
        />
        <Line label="PIN" value={pin} onType={setPin} digits password inputRef={pinField} />
        <ProblemNote error={coming.error} />
        <Button
          type="submit"
          variant="contained"
          size="large"
          disabled={coming.isPending || badge === '' || pin === ''}
        >
          Sign in
        </Button>
      </Stack>
    </Form>
  );
}

const isBadge = (text: string): boolean => {
  const parsed = parseScan(text, 2000);
  return parsed.ok && parsed.value.type === 'own' && parsed.value.kind === 'badge';
};
