import { QueryClient } from '@tanstack/react-query';
import { Problem } from '@/api/client';

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 30_000,
      refetchOnWindowFocus: false,
      // What the server refuses, it refuses again; only a broken connection is worth another try.
      retry: (count, error) => count < 3 && error instanceof Problem && [0, 502, 503].includes(error.status),
    },
  },
});
