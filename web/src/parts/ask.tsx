import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Stack from '@mui/material/Stack';
import { type ReactNode, useEffect, useRef, useState } from 'react';
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

/**
 * What is asked. Its first field to type into has the focus, or what it does, so that Enter does it; not where that cannot be taken back. A field
 * that asks for the focus itself has it.
 */
function Asked({ danger, children }: { danger: boolean; children: ReactNode }) {
  const place = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const question = place.current!.closest('[role="dialog"]')!;
    if (question.contains(document.activeElement) && document.activeElement !== question) return;
    const field = place.current!.querySelector<HTMLElement>('input:not([disabled]), textarea');
    const act = question.querySelector<HTMLElement>('button[type="submit"]');
    (field ?? (danger ? null : act))?.focus();
  }, [danger]);
  return <DialogContent ref={place}>{children}</DialogContent>;
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
  danger = false,
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
        <Asked danger={danger}>
          <Stack spacing={1.5}>{children}</Stack>
          {sent && <ProblemNote error={error} />}
        </Asked>
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
