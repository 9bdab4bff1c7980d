import { PersonRow, Role } from '@auk/contract';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { get } from '../api.js';
import { moment } from '../parts/format.js';
import { ProblemNote } from '../parts/problem.js';
import { SetupNav } from '../setup/SetupNav.js';
import { EditPerson } from './EditPerson.js';
import { NewPerson } from './NewPerson.js';
import { NewPin } from './NewPin.js';
import { RightsGrid } from './RightsGrid.js';

export const ROLE_WORDS: Record<Role, string> = {
  lead: 'Lead',
  picker: 'Picker',
  packer: 'Packer',
  office: 'Office',
  admin: 'Admin',
};

type Open = { what: 'new' } | { what: 'edit' | 'pin'; person: PersonRow } | null;

/** Who works here: badges, PINs, roles, and what each role may do. */
export default function PeoplePage() {
  const client = useQueryClient();
  const people = useQuery({ queryKey: ['people'], queryFn: () => get(PersonRow.array(), 'people') });
  const [open, setOpen] = useState<Open>(null);
  const leave = () => setOpen(null);
  const done = async () => {
    await client.invalidateQueries({ queryKey: ['people'] });
    leave();
  };
  return (
    <>
      <SetupNav />
      <div className="headline">
        <div className="grow">
          <h1>People</h1>
          <p className="quiet">
            Everyone signs in with a badge and a PIN. Whoever leaves is retired, and stays in the history.
          </p>
        </div>
        <Button variant="contained" onClick={() => setOpen({ what: 'new' })}>
          Add a person
        </Button>
      </div>
      <ProblemNote error={people.error} />
      <Table size="small" aria-label="People" sx={{ mb: 4 }}>
        <TableHead>
          <TableRow>
            <TableCell>Name</TableCell>
            <TableCell>Badge</TableCell>
            <TableCell>Role</TableCell>
            <TableCell>State</TableCell>
            <TableCell align="right">Acts</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {people.data?.map(p => (
            <TableRow key={p.id}>
              <TableCell>
                <b>{p.name}</b>
              </TableCell>
              <TableCell className="code">{p.badge}</TableCell>
              <TableCell>{ROLE_WORDS[p.role]}</TableCell>
              <TableCell>{stateOf(p)}</TableCell>
              <TableCell align="right">
                <Button size="small" href={`/api/v1/people/${p.id}/badge.pdf`} target="_blank">
                  Badge
                </Button>
                <Button size="small" onClick={() => setOpen({ what: 'pin', person: p })}>
                  New PIN
                </Button>
                <Button size="small" onClick={() => setOpen({ what: 'edit', person: p })}>
                  Change
                </Button>
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <RightsGrid />
      {open?.what === 'new' && <NewPerson leave={leave} done={done} />}
      {open?.what === 'edit' && <EditPerson person={open.person} leave={leave} done={done} />}
      {open?.what === 'pin' && <NewPin person={open.person} leave={leave} done={done} />}
    </>
  );
}

function stateOf(p: PersonRow): string {
  if (!p.active) return '○ retired';
  return p.waitsUntil ? `! too many wrong PINs, waits until ${moment(p.waitsUntil)}` : '✓ may sign in';
}
