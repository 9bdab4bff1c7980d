import { count } from '@auk/core';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import List from '@mui/material/List';
import ListItem from '@mui/material/ListItem';
import ListItemText from '@mui/material/ListItemText';
import { useState } from 'react';
import { moment } from '../parts/format.js';
import type { OutboxView, Pending } from './outbox.js';
import { outbox, useOutbox } from './theOutbox.js';

const WHY: Record<NonNullable<OutboxView['trouble']>, string> = {
  'no network': 'Auk cannot be reached. They are kept here and sent as soon as it can.',
  'signed out': 'Nobody is signed in. They are kept here and sent after the next sign-in.',
  'the server has trouble': 'Auk has trouble of its own. They are kept here and sent again.',
};

/** How many scans of this device the server has not judged yet; pressed, it says which and why. Nothing when there are none. */
export function Unsent() {
  const view = useOutbox();
  const [open, setOpen] = useState(false);
  const n = view.pending.length;
  const aside = view.pending.filter(p => p.aside !== null).length;
  // A scan on its way for a moment is nothing to be told of.
  const quiet = n === 0 || (view.trouble === null && aside === 0 && !view.full && n < 3);
  if (quiet && !open) return null;
  return (
    <>
      <Button
        size="small"
        variant="outlined"
        color={aside > 0 || view.full ? 'error' : 'warning'}
        onClick={() => setOpen(true)}
        sx={{ whiteSpace: 'nowrap' }}
      >
        {aside > 0 || view.full ? '▲' : '◆'} {count(n, 'scan')} unsent{view.full && ', no room'}
      </Button>
      {open && <UnsentList view={view} leave={() => setOpen(false)} />}
    </>
  );
}

function UnsentList({ view, leave }: { view: OutboxView; leave: () => void }) {
  return (
    <Dialog open onClose={leave} fullWidth maxWidth="sm">
      <DialogTitle>
        {view.pending.length === 0
          ? 'Everything is sent.'
          : `${count(view.pending.length, 'scan')} not sent yet`}
      </DialogTitle>
      <DialogContent>
        {view.trouble && <p>{WHY[view.trouble]}</p>}
        {view.full && (
          <p>
            ▲ This device has no room left to keep them. Leave this page open until all is sent, then free
            some room on the device.
          </p>
        )}
        <List dense>
          {view.pending.map(p => (
            <Item key={p.id} p={p} />
          ))}
        </List>
      </DialogContent>
      <DialogActions>
        <Button onClick={leave}>Close</Button>
        {view.pending.length > 0 && (
          <Button variant="contained" onClick={() => outbox.hurry()}>
            Try now
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}

function Item({ p }: { p: Pending }) {
  return (
    <ListItem
      secondaryAction={p.aside !== null && <Button onClick={() => outbox.again(p.id)}>Send again</Button>}
    >
      <ListItemText
        primary={`${p.scan.text.slice(0, 40)} into ${p.into}`}
        secondary={
          p.aside !== null
            ? `Set aside: ${p.aside}`
            : `${moment(p.scan.at)}${p.maker ? `, ${p.maker.name}` : ''}`
        }
      />
    </ListItem>
  );
}
