import '@fontsource/commit-mono/400.css';
import '@fontsource/commit-mono/700.css';
import '@fontsource/ibm-plex-sans-condensed/400.css';
import '@fontsource/ibm-plex-sans-condensed/600.css';
import '@fontsource-variable/literata';
import './styles/mantine';
import './styles/tokens.css';
import { MantineProvider } from '@mantine/core';
import { QueryCache, QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter } from 'react-router';
import { App } from './App';
import { ProblemError } from './api/client';
import { Notices } from './parts/Notices';
import { theme } from './theme';

const queries = new QueryClient({
  // Whoever is not let in any more is asked who they are.
  queryCache: new QueryCache({
    onError: (error) => {
      if (error instanceof ProblemError && error.problem.kind === 'not_signed_in') {
        queries.invalidateQueries({ queryKey: ['session'] });
      }
    },
  }),
  defaultOptions: { queries: { retry: false, staleTime: 2_000, refetchOnWindowFocus: true } },
});
const nonce = document.querySelector('meta[name="style-nonce"]')?.getAttribute('content') ?? '';
const root = document.getElementById('root');

if (root) {
  createRoot(root).render(
    <StrictMode>
      <MantineProvider theme={theme} defaultColorScheme="auto" getStyleNonce={() => nonce}>
        <Notices />
        <QueryClientProvider client={queries}>
          <BrowserRouter>
            <App />
          </BrowserRouter>
        </QueryClientProvider>
      </MantineProvider>
    </StrictMode>,
  );
}
