import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useQuery } from '@tanstack/react-query';
import { Refused } from '../../api.js';
import { useOutbox } from '../../scans/theOutbox.js';
import { meQuery } from '../api.js';
import { SignInForm } from './SignInForm.js';

/** Sign-in over the screen at hand, once the session ended in the middle of work, which goes on behind it. */
export function SignInOver() {
  const { signIn } = useOutbox();
  const { error } = useQuery(meQuery);
  const out = error instanceof Refused && error.problem.status === 401;
  if (!signIn && !out) return null;
  return (
    <Dialog open maxWidth="xs" fullWidth>
      <DialogTitle>Sign in to go on</DialogTitle>
      <DialogContent>
        <p>Your sign-in is over. What you scanned is kept and sent when somebody is signed in.</p>
        <SignInForm over />
      </DialogContent>
    </Dialog>
  );
}
