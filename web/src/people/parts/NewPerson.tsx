import { PersonIn, Role } from '@auk/contract';
import { zodResolver } from '@hookform/resolvers/zod';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Controller, useForm } from 'react-hook-form';
import { v7 } from 'uuid';
import { Ask } from '../../parts/ask.js';
import { Choice } from '../../parts/Choice.js';
import { Line } from '../../parts/Line.js';
import { say } from '../../parts/say.js';
import { addPerson } from '../api.js';
import { ROLE_WORDS } from '../roles.js';

/** Adds a person; the badge that Auk gives is told and can be printed from the list. */
export function NewPerson({ leave, done }: { leave: () => void; done: () => Promise<void> }) {
  const [key] = useState(() => v7());
  const { control, formState, handleSubmit } = useForm<PersonIn>({
    resolver: zodResolver(PersonIn),
    defaultValues: { key, name: '', role: 'picker', pin: '' },
    mode: 'onTouched',
  });
  const save = useMutation({
    mutationFn: addPerson,
    onSuccess: async ({ badge }, { name }) => {
      say(`${name} may sign in with badge ${badge}.`);
      await done();
    },
  });
  return (
    <Ask
      title="Add a person"
      act="Add"
      ready={formState.isValid}
      busy={save.isPending}
      error={save.error}
      onLeave={leave}
      onAct={() => void handleSubmit(input => save.mutate(input))()}
    >
      <Controller
        control={control}
        name="name"
        render={({ field, fieldState }) => (
          <Line
            label="Name"
            autoFocus
            value={field.value}
            onType={field.onChange}
            onBlur={field.onBlur}
            wrong={fieldState.error && 'Two letters at least.'}
          />
        )}
      />
      <Controller
        control={control}
        name="role"
        render={({ field }) => (
          <Choice
            label="Role"
            value={field.value}
            options={Role.options.map(r => [r, ROLE_WORDS[r]] as const)}
            onChoose={field.onChange}
          />
        )}
      />
      <Controller
        control={control}
        name="pin"
        render={({ field, fieldState }) => (
          <Line
            label="PIN"
            digits
            value={field.value}
            onType={field.onChange}
            onBlur={field.onBlur}
            hint="The person can be given another at any time."
            wrong={fieldState.error && 'Four to twelve digits.'}
          />
        )}
      />
    </Ask>
  );
}
