import { PersonRow } from '@auk/contract';
import Button from '@mui/material/Button';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { moment } from '../../parts/format.js';
import { Head } from '../../parts/Head.js';
import { ProblemNote } from '../../parts/problem.js';
import { type Column, DataTable } from '../../parts/table/DataTable.js';
import textCss from '../../parts/text.module.css';
import { SetupNav } from '../../setup/parts/SetupNav.js';
import { peopleQuery } from '../api.js';
import { EditPerson } from '../parts/EditPerson.js';
import { NewPerson } from '../parts/NewPerson.js';
import { NewPin } from '../parts/NewPin.js';
import { RightsGrid } from '../parts/RightsGrid.js';
import { ROLE_WORDS } from '../roles.js';

type Open = { what: 'new' } | { what: 'edit' | 'pin'; person: PersonRow } | null;

/** Who works here: badges, PINs, roles, and what each role may do. */
export default function PeoplePage() {
  const client = useQueryClient();
  const people = useQuery(peopleQuery);
  const [open, setOpen] = useState<Open>(null);
  const columns = useMemo(() => peopleColumns(setOpen), []);
  const leave = () => setOpen(null);
  const done = async () => {
    await client.invalidateQueries(peopleQuery);
    leave();
  };
  return (
    <>
      <SetupNav />
      <Head
        title="People"
        about="Everyone signs in with a badge and a PIN. Whoever leaves is retired, and stays in the history."
      >
        <Button variant="contained" onClick={() => setOpen({ what: 'new' })}>
          Add a person
        </Button>
      </Head>
      <ProblemNote error={people.error} />
      <DataTable
        name="people"
        label="People"
        rows={people.data ?? []}
        idOf={p => p.id}
        columns={columns}
        arrangeable={false}
      />
      <RightsGrid />
      {open?.what === 'new' && <NewPerson leave={leave} done={done} />}
      {open?.what === 'edit' && <EditPerson person={open.person} leave={leave} done={done} />}
      {open?.what === 'pin' && <NewPin person={open.person} leave={leave} done={done} />}
    </>
  );
}

const peopleColumns = (open: (o: Open) => void): Column<PersonRow>[] => [
  { id: 'name', head: 'Name', width: 20, cell: p => <b>{p.name}</b> },
  { id: 'badge', head: 'Badge', width: 12, cell: p => <span className={textCss.code}>{p.badge}</span> },
  { id: 'role', head: 'Role', width: 12, cell: p => ROLE_WORDS[p.role] },
  { id: 'state', head: 'State', width: 26, cell: stateOf },
  {
    id: 'acts',
    head: 'Acts',
    right: true,
    fixed: true,
    width: 24,
    cell: p => (
      <>
        <Button size="small" href={`/api/v1/people/${p.id}/badge.pdf`} target="_blank">
          Badge
        </Button>
        <Button size="small" onClick={() => open({ what: 'pin', person: p })}>
          New PIN
        </Button>
        <Button size="small" onClick={() => open({ what: 'edit', person: p })}>
          Change
        </Button>
      </>
    ),
  },
];

function stateOf(p: PersonRow): string {
  if (!p.active) return '○ retired';
  return p.waitsUntil ? `! too many wrong PINs, waits until ${moment(p.waitsUntil)}` : '✓ may sign in';
}
