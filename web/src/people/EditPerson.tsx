import { PersonEdit, PersonRow, Role } from '@auk/contract';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { send } from '../api.js';
import { Ask } from '../parts/ask.js';
import { ROLE_WORDS } from './PeoplePage.js';

/** Changes a person's name or role, or retires them. */
export function EditPerson({
  person,
  leave,
  done,
}: {
  person: PersonRow;
  leave: () => void;
  done: () => Promise<void>;
}) {
  const [edit, setEdit] = useState<PersonEdit>({
    name: person.name,
    role: person.role,
    active: person.active,
  });
  const save = useMutation({ mutationFn: () => send(`people/${person.id}`, edit), onSuccess: done });
  return (
    <Ask
      title={`Change ${person.name}`}
      act="Save"
      ready={PersonEdit.safeParse(edit).success}
      busy={save.isPending}
      error={save.error}
      onLeave={leave}
      onAct={() => save.mutate()}
    >
      <TextField
        label="Name"
        autoFocus
        fullWidth
        margin="dense"
        value={edit.name}
        onChange={e => setEdit({ ...edit, name: e.target.value })}
      />
      <TextField
        label="Role"
        select
        fullWidth
        margin="dense"
        value={edit.role}
        onChange={e => setEdit({ ...edit, role: e.target.value as Role })}
      >
        {Role.options.map(r => (
          <MenuItem key={r} value={r}>
            {ROLE_WORDS[r]}
          </MenuItem>
        ))}
      </TextField>
      <FormControlLabel
        control={
          <Checkbox checked={!edit.active} onChange={e => setEdit({ ...edit, active: !e.target.checked })} />
        }
        label="Retired: may not sign in any more"
      />
    </Ask>
  );
}
