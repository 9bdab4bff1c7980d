import Logout from '@mui/icons-material/Logout';
import Tune from '@mui/icons-material/Tune';
import ListItemIcon from '@mui/material/ListItemIcon';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';
import { useSignOut } from '../people/useSignOut.js';
import { HowItLooks } from './HowItLooks.js';

/** What whoever is signed in may do about themselves, under their name. */
export default function WhoMenu({ at, leave }: { at: HTMLElement; leave: () => void }) {
  const signOut = useSignOut();
  const [looking, setLooking] = useState(false);
  if (looking) return <HowItLooks leave={leave} />;
  return (
    <Menu open anchorEl={at} onClose={leave}>
      <MenuItem onClick={() => setLooking(true)}>
        <ListItemIcon>
          <Tune fontSize="small" />
        </ListItemIcon>
        How it looks
      </MenuItem>
      <MenuItem onClick={() => void signOut()}>
        <ListItemIcon>
          <Logout fontSize="small" />
        </ListItemIcon>
        Sign out
      </MenuItem>
    </Menu>
  );
}
