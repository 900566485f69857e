import '@fontsource-variable/figtree/wght.css';
import '@fontsource-variable/jetbrains-mono/wght.css';
import { QueryClientProvider } from '@tanstack/react-query';
import { setNonce } from 'get-nonce';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter } from 'react-router';
import { newQueryClient } from './api/queryClient';
import { applyTheme, savedTheme } from './parts/theme';
import { Results } from './places/results/Results';
import './styles.css';

setNonce(document.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content ?? '');
applyTheme(savedTheme());

const queries = newQueryClient({ retry: 1, staleTime: 60_000, refetchOnWindowFocus: false });

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <BrowserRouter>
        <Results token={window.location.pathname.split('/').at(-1)!} />
      </BrowserRouter>
    </QueryClientProvider>
  </StrictMode>,
);
