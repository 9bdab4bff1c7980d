import '@fontsource-variable/atkinson-hyperlegible-next';
import '@fontsource-variable/atkinson-hyperlegible-mono';
import { StyledEngineProvider } from '@mui/material/styles';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { RouterProvider } from 'react-router';
import { Refused } from './api.js';
import { router } from './app.js';
import { startOffline } from './update.js';

const client = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 5_000,
      refetchOnWindowFocus: true,
      retry: (failures, error) => !(error instanceof Refused) && failures < 3,
      // Whether the server can be reached is seen by asking: what this device holds answers too.
      networkMode: 'always',
    },
    mutations: { networkMode: 'always' },
  },
});

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    {/* The house's own sheets come after MUI's, and count where both say something. */}
    <StyledEngineProvider injectFirst>
      <QueryClientProvider client={client}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </StyledEngineProvider>
  </StrictMode>,
);

startOffline();
