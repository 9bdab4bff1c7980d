import ButtonBase from '@mui/material/ButtonBase';
import { lazy, Suspense, useState } from 'react';
import { useMe } from '../people/useMe.js';
import css from './shell.module.css';

/** It is seldom asked for, and comes when it is. */
const WhoMenu = lazy(() => import('./WhoMenu.js'));

/** Who is signed in: how Auk looks to them, and the way out. */
export function Who() {
  const me = useMe();
  const [at, setAt] = useState<HTMLElement | null>(null);
  return (
    <>
      <ButtonBase className={css.who} aria-haspopup="menu" onClick={e => setAt(e.currentTarget)}>
        {me.name}
        <small>{me.role}</small>
      </ButtonBase>
      <Suspense>{at && <WhoMenu at={at} leave={() => setAt(null)} />}</Suspense>
    </>
  );
}
