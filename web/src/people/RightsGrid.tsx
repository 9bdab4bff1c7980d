import { RIGHT_NAMES, RIGHTS, Right, RightsTable, Role } from '@auk/contract';
import Checkbox from '@mui/material/Checkbox';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { get, post } from '../api.js';
import { ProblemNote } from '../parts/problem.js';
import { ROLE_WORDS } from './PeoplePage.js';

const ROLES: Role[] = ['lead', 'picker', 'packer', 'office'];

/** What each role may do; the admin may do everything. */
export function RightsGrid() {
  const client = useQueryClient();
  const rights = useQuery({
    queryKey: ['people', 'rights'],
    queryFn: () => get(RightsTable, 'people/rights'),
  });
  const set = useMutation({
    mutationFn: (input: { right: Right; role: Role; on: boolean }) =>
      post(RightsTable, 'people/rights', input),
    onSuccess: table => client.setQueryData(['people', 'rights'], table),
  });
  if (!rights.data) return <ProblemNote error={rights.error} />;
  return (
    <>
      <h2>What each role may do</h2>
      <p className="quiet">
        Everyone who is signed in may look at everything. The admin may do everything, always.
      </p>
      <ProblemNote error={set.error} />
      <Table size="small" aria-label="Rights">
        <TableHead>
          <TableRow>
            <TableCell>Right</TableCell>
            {ROLES.map(r => (
              <TableCell key={r} align="center">
                {ROLE_WORDS[r]}
              </TableCell>
            ))}
          </TableRow>
        </TableHead>
        <TableBody>
          {RIGHT_NAMES.map(right => (
            <TableRow key={right} hover>
              <TableCell component="th" scope="row">
                {RIGHTS[right].words}
              </TableCell>
              {ROLES.map(role => (
                <TableCell key={role} align="center" padding="none">
                  <Checkbox
                    size="small"
                    checked={rights.data[right].includes(role)}
                    disabled={set.isPending}
                    onChange={e => set.mutate({ right, role, on: e.target.checked })}
                    slotProps={{ input: { 'aria-label': `${ROLE_WORDS[role]}: ${RIGHTS[right].words}` } }}
                  />
                </TableCell>
              ))}
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </>
  );
}
