import { NewPin as NewPinIn, PersonRow } from '@auk/contract';
import TextField from '@mui/material/TextField';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { send } from '../api.js';
import { Ask } from '../parts/ask.js';

/** Gives a person a new PIN; their badge may be tried again at once. */
export function NewPin({
  person,
  leave,
  done,
}: {
  person: PersonRow;
  leave: () => void;
  done: () => Promise<void>;
}) {
  const [pin, setPin] = useState('');
  const save = useMutation({ mutationFn: () => send(`people/${person.id}/pin`, { pin }), onSuccess: done });
  return (
    <Ask
      title={`New PIN for ${person.name}`}
      act="Set the PIN"
      ready={NewPinIn.safeParse({ pin }).success}
      busy={save.isPending}
      error={save.error}
      onLeave={leave}
      onAct={() => save.mutate()}
    >
      <p>The old PIN counts no more, and {person.name} is signed out everywhere.</p>
      <TextField
        label="New PIN"
        autoFocus
        fullWidth
        margin="dense"
        autoComplete="off"
        value={pin}
        helperText="Four to twelve digits."
        slotProps={{ htmlInput: { inputMode: 'numeric' } }}
        onChange={e => setPin(e.target.value)}
      />
    </Ask>
  );
}
