import { PersonEdit, type PersonRow, Role } from '@auk/contract';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Ask } from '../../parts/ask.js';
import { Choice } from '../../parts/Choice.js';
import { Line } from '../../parts/Line.js';
import { Tick } from '../../parts/Tick.js';
import { changePerson } from '../api.js';
import { ROLE_WORDS } from '../roles.js';

interface Props {
  person: PersonRow;
  leave: () => void;
  done: () => Promise<void>;
}

/** Changes a person's name or role, or retires them. */
export function EditPerson({ person, leave, done }: Props) {
  const [edit, setEdit] = useState<PersonEdit>({
    name: person.name,
    role: person.role,
    active: person.active,
  });
  const save = useMutation({ mutationFn: () => changePerson(person.id, edit), onSuccess: done });
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
      <Line label="Name" autoFocus value={edit.name} onType={name => setEdit({ ...edit, name })} />
      <Choice
        label="Role"
        value={edit.role}
        options={Role.options.map(r => [r, ROLE_WORDS[r]] as const)}
        onChoose={role => setEdit({ ...edit, role })}
      />
      <Tick
        label="Retired: may not sign in any more"
        checked={!edit.active}
        onTick={retired => setEdit({ ...edit, active: !retired })}
      />
    </Ask>
  );
}
