import { MadeBadge, PersonIn, Role } from '@auk/contract';
import { zodResolver } from '@hookform/resolvers/zod';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { v7 } from 'uuid';
import { post } from '../api.js';
import { Ask } from '../parts/ask.js';
import { ROLE_WORDS } from './PeoplePage.js';

/** Adds a person; the badge that Auk gives is told and can be printed from the list. */
export function NewPerson({ leave, done }: { leave: () => void; done: () => Promise<void> }) {
  const [key] = useState(() => v7());
  const form = useForm<PersonIn>({
    resolver: zodResolver(PersonIn),
    defaultValues: { key, name: '', role: 'picker', pin: '' },
    mode: 'onTouched',
  });
  const save = useMutation({
    mutationFn: (input: PersonIn) => post(MadeBadge, 'people', input),
    onSuccess: done,
  });
  const { errors, isValid } = form.formState;
  return (
    <Ask
      title="Add a person"
      act="Add"
      ready={isValid}
      busy={save.isPending}
      error={save.error}
      onLeave={leave}
      onAct={() => void form.handleSubmit(input => save.mutate(input))()}
    >
      <TextField
        label="Name"
        autoFocus
        fullWidth
        margin="dense"
        error={!!errors.name}
        helperText={errors.name && 'Two letters at least.'}
        {...form.register('name')}
      />
      <TextField
        label="Role"
        select
        fullWidth
        margin="dense"
        defaultValue="picker"
        {...form.register('role')}
      >
        {Role.options.map(r => (
          <MenuItem key={r} value={r}>
            {ROLE_WORDS[r]}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        label="PIN"
        fullWidth
        margin="dense"
        autoComplete="off"
        error={!!errors.pin}
        helperText="Four to twelve digits. The person can be given another at any time."
        slotProps={{ htmlInput: { inputMode: 'numeric' } }}
        {...form.register('pin')}
      />
    </Ask>
  );
}
