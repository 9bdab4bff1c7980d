import Alert from '@mui/material/Alert';
import AlertTitle from '@mui/material/AlertTitle';
import Button from '@mui/material/Button';
import { useLocation, useNavigate, useRouteError } from 'react-router';
import { inTab } from '../kept.js';

const RELOADED = 'auk.reloaded';

/** A part of the program that was replaced by a newer one cannot be had any more; loading the page anew brings the newer. */
const isGone = (error: unknown): boolean =>
  error instanceof Error &&
  /dynamically imported module|Importing a module script failed/.test(error.message);

/** An error of one page stays on that page: a sentence with a way on, and everything around it works. */
export function BrokenPage() {
  const gone = isGone(useRouteError());
  const here = useLocation();
  const navigate = useNavigate();
  // Once for a page, and only where that is remembered, so that one that stays gone does not load for ever.
  if (gone && inTab.get(RELOADED) !== here.pathname && inTab.set(RELOADED, here.pathname)) {
    window.location.reload();
    return null;
  }
  return (
    <Alert
      severity="error"
      sx={{ m: 3, maxWidth: 640 }}
      action={
        <Button color="inherit" size="small" onClick={() => window.location.reload()}>
          Load anew
        </Button>
      }
    >
      <AlertTitle>{gone ? 'This page could not be loaded.' : 'This page went wrong.'}</AlertTitle>
      What was scanned is kept and sent. Go on with another page, or{' '}
      <Button size="small" onClick={() => void navigate(here, { replace: true })}>
        try this one again
      </Button>
    </Alert>
  );
}
