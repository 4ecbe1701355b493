import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, renderHook } from '@testing-library/react';
import type { ReactNode } from 'react';
import { describe, expect, it, vi } from 'vitest';
import { useFresh } from '@/app/fresh';

type Listener = (change: { topic: string }) => void;
const listeners = vi.hoisted(() => [] as Listener[]);
vi.mock('@/shared/live', () => ({
  onChange: (listener: Listener) => {
    listeners.push(listener);
    return () => listeners.splice(listeners.indexOf(listener), 1);
  },
}));

const begin = () => {
  listeners.length = 0;
  const client = new QueryClient();
  for (const key of ['lanes', 'technicians', 'schedule', 'orders', 'company'])
    client.setQueryData([key, 'x'], 1);
  renderHook(() => useFresh(), {
    wrapper: ({ children }: { children: ReactNode }) => (
      <QueryClientProvider client={client}>{children}</QueryClientProvider>
    ),
  });
  const tell = (topic: string) => act(() => listeners.forEach((listener) => listener({ topic })));
  const old = () =>
    client
      .getQueryCache()
      .getAll()
      .filter((query) => query.state.isInvalidated)
      .map((query) => String(query.queryKey[0]));
  return { tell, old };
};

describe('what is kept', () => {
  it('of technicians is old once one was added, also where the board is not open', async () => {
    const { tell, old } = begin();
    tell('technician');
    expect(old()).toEqual(expect.arrayContaining(['lanes', 'technicians', 'schedule']));
    expect(old()).not.toContain('orders');
  });

  it('of orders is old once a visit was moved', () => {
    const { tell, old } = begin();
    tell('visit');
    expect(old()).toEqual(expect.arrayContaining(['schedule', 'orders']));
    expect(old()).not.toContain('company');
  });

  it('is all old after the line was broken, and not when it is first there', () => {
    const { tell, old } = begin();
    tell('resync');
    expect(old()).toEqual([]);
    tell('resync');
    expect(old()).toHaveLength(5);
  });
});
