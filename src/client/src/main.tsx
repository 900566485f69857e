import '@fontsource-variable/figtree/wght.css';
import '@fontsource-variable/jetbrains-mono/wght.css';
import { QueryClientProvider } from '@tanstack/react-query';
import { setNonce } from 'get-nonce';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { newQueryClient } from './api/queryClient';
import { App } from './App';
import { applyTheme, savedTheme } from './parts/theme';
import './styles.css';

// Dialogs add a style of their own while they are open; the nonce lets it through the Content-Security-Policy.
setNonce(document.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content ?? '');
applyTheme(savedTheme());

const queries = newQueryClient({ retry: 1, staleTime: 5_000, refetchOnWindowFocus: false });

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <App />
    </QueryClientProvider>
  </StrictMode>,
);
