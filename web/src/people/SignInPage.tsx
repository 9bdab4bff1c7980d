import { Person } from '@auk/contract';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { post } from '../api.js';
import { ProblemNote } from '../parts/problem.js';
import { useScanner } from '../scans/useScanner.js';

/** Sign-in: the badge is scanned or typed, the PIN is typed. */
export function SignInPage() {
  const [badge, setBadge] = useState('');
  const [pin, setPin] = useState('');
  const pinField = useRef<HTMLInputElement>(null);
  const client = useQueryClient();
  const signIn = useMutation({
    mutationFn: () => post(Person, 'people/sign-in', { badge, pin }),
    onSuccess: person => client.setQueryData(['me'], person),
  });
  useScanner(text => {
    setBadge(text.toUpperCase());
    pinField.current?.focus();
  });
  return (
    <main style={{ maxWidth: 380, margin: '0 auto', padding: '14vh 24px 0' }}>
      <img src="/mark.svg" alt="" width={64} height={64} />
      <h1 style={{ margin: '16px 0 4px' }}>Auk</h1>
      <p className="quiet" style={{ marginBottom: 24 }}>
        Scan your badge, or type its code; then your PIN.
      </p>
      <form
        onSubmit={event => {
          event.preventDefault();
          signIn.mutate();
        }}
      >
        <TextField
          label="Badge"
          name="badge"
          value={badge}
          onChange={e => setBadge(e.target.value)}
          onKeyDown={e => {
            if (e.key !== 'Enter' || pin !== '') return;
            e.preventDefault();
            pinField.current?.focus();
          }}
          fullWidth
          autoFocus
          autoComplete="off"
          margin="dense"
        />
        <TextField
          label="PIN"
          name="pin"
          type="password"
          value={pin}
          onChange={e => setPin(e.target.value)}
          inputRef={pinField}
          fullWidth
          autoComplete="off"
          margin="dense"
          slotProps={{ htmlInput: { inputMode: 'numeric' } }}
        />
        <ProblemNote error={signIn.error} />
        <Button
          type="submit"
          variant="contained"
          fullWidth
          size="large"
          disabled={signIn.isPending || badge === '' || pin === ''}
          sx={{ mt: 2 }}
        >
          Sign in
        </Button>
      </form>
    </main>
  );
}
