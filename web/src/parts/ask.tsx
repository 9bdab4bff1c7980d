import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Stack from '@mui/material/Stack';
import { type ReactNode, useState } from 'react';
import { Form } from './Form.js';
import { ProblemNote } from './problem.js';

interface Props {
  title: string;
  act: string;
  onAct: () => void;
  onLeave: () => void;
  busy?: boolean;
  error?: unknown;
  ready?: boolean;
  danger?: boolean;
  wide?: boolean;
  children: ReactNode;
}

/** A question before something is done: what, with what, do it or leave it. Enter does it. */
export function Ask({
  title,
  act,
  onAct,
  onLeave,
  busy = false,
  error,
  ready = true,
  danger,
  wide,
  children,
}: Props) {
  const [sent, setSent] = useState(false);
  return (
    <Dialog open onClose={onLeave} fullWidth maxWidth={wide ? 'md' : 'xs'}>
      <Form
        ready={ready && !busy}
        onSend={() => {
          setSent(true);
          onAct();
        }}
      >
        <DialogTitle>{title}</DialogTitle>
        <DialogContent>
          <Stack spacing={1.5}>{children}</Stack>
          {sent && <ProblemNote error={error} />}
        </DialogContent>
        <DialogActions>
          <Button onClick={onLeave}>Leave it</Button>
          <Button
            type="submit"
            variant="contained"
            color={danger ? 'error' : 'primary'}
            disabled={!ready || busy}
          >
            {act}
          </Button>
        </DialogActions>
      </Form>
    </Dialog>
  );
}
