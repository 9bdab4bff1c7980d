import { NewPin as NewPinIn, PersonRow } from '@auk/contract';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Ask } from '../../parts/ask.js';
import { Line } from '../../parts/Line.js';
import { say } from '../../parts/say.js';
import { giveNewPin } from '../api.js';

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
  const save = useMutation({
    mutationFn: () => giveNewPin(person.id, pin),
    onSuccess: async () => {
      say(`${person.name} has a new PIN.`);
      await done();
    },
  });
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
      <Line label="New PIN" autoFocus digits value={pin} onType={setPin} hint="Four to twelve digits." />
    </Ask>
  );
}
