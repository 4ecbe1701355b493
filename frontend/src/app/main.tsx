import '@/design/tokens.css';
import { QueryClientProvider } from '@tanstack/react-query';
import { RouterProvider } from '@tanstack/react-router';
import { StrictMode, Suspense } from 'react';
import { createRoot } from 'react-dom/client';
import { Toaster } from 'sonner';
import { queryClient } from './queryClient';
import { router } from './router';
import { applyTheme } from './theme';

applyTheme();
createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={queryClient}>
      <Suspense fallback={<p className="p-6">One moment…</p>}>
        <RouterProvider router={router} />
      </Suspense>
      <Toaster position="bottom-left" toastOptions={{ className: 'relay-toast', duration: 6000 }} />
    </QueryClientProvider>
  </StrictMode>,
);
