import Logout from '@mui/icons-material/Logout';
import Tune from '@mui/icons-material/Tune';
import ButtonBase from '@mui/material/ButtonBase';
import ListItemIcon from '@mui/material/ListItemIcon';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';
import { useMe } from '../people/useMe.js';
import { useSignOut } from '../people/useSignOut.js';
import { HowItLooks } from './HowItLooks.js';
import css from './shell.module.css';

/** Who is signed in: how Auk looks to them, and the way out. */
export function Who() {
  const me = useMe();
  const signOut = useSignOut();
  const [at, setAt] = useState<HTMLElement | null>(null);
  const [looking, setLooking] = useState(false);
  return (
    <>
      <ButtonBase className={css.who} aria-haspopup="menu" onClick={e => setAt(e.currentTarget)}>
        {me.name}
        <small>{me.role}</small>
      </ButtonBase>
      <Menu open={at !== null} anchorEl={at} onClose={() => setAt(null)}>
        <MenuItem
          onClick={() => {
            setAt(null);
            setLooking(true);
          }}
        >
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
      {looking && <HowItLooks leave={() => setLooking(false)} />}
    </>
  );
}
