import Alert from '@mui/material/Alert';
import {
  type CustomContentProps,
  closeSnackbar,
  enqueueSnackbar,
  SnackbarContent,
  SnackbarProvider,
} from 'notistack';
import { forwardRef } from 'react';

declare module 'notistack' {
  interface VariantOverrides {
    said: true;
  }
}

const SHOWN_MS = 6_000;

/** Says that something is done where the page itself does not show it; gone after a while, or when it is closed. */
export const say = (words: string): void => {
  enqueueSnackbar(words, { variant: 'said', autoHideDuration: SHOWN_MS });
};

/** Where these words stand: at the foot, over whatever page comes. */
export const SayHere = () => (
  <SnackbarProvider
    Components={{ said: Words }}
    maxSnack={3}
    anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
  />
);

const Words = forwardRef<HTMLDivElement, CustomContentProps>(({ id, message }, ref) => (
  <SnackbarContent ref={ref} role="log">
    <Alert
      role="none"
      severity="success"
      onClose={() => closeSnackbar(id)}
      sx={{ m: 0, border: '1px solid var(--ink)' }}
    >
      ✓ {message}
    </Alert>
  </SnackbarContent>
));
