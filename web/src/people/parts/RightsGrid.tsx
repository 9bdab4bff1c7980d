import { RIGHT_NAMES, RIGHTS, type Role } from '@auk/contract';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { ProblemNote } from '../../parts/problem.js';
import { Tick } from '../../parts/Tick.js';
import textCss from '../../parts/text.module.css';
import { Waiting } from '../../parts/Waiting.js';
import { rightsQuery, setRight } from '../api.js';
import { ROLE_WORDS } from '../roles.js';

const ROLES: Role[] = ['lead', 'picker', 'packer', 'office'];

/** What each role may do; the admin may do everything. */
export function RightsGrid() {
  const client = useQueryClient();
  const rights = useQuery(rightsQuery);
  const set = useMutation({
    mutationFn: setRight,
    onSuccess: table => client.setQueryData(rightsQuery.queryKey, table),
  });
  if (!rights.data) return <Waiting error={rights.error} />;
  return (
    <>
      <h2>What each role may do</h2>
      <p className={textCss.quiet}>
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
                  <Tick
                    bare
                    label={`${ROLE_WORDS[role]}: ${RIGHTS[right].words}`}
                    checked={rights.data[right].includes(role)}
                    disabled={set.isPending}
                    onTick={on => set.mutate({ right, role, on })}
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
