// Drawing a part of the interface for a test: with a query cache of its own and somebody signed in.

import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import {
  createMemoryHistory,
  createRootRoute,
  createRoute,
  createRouter,
  RouterProvider,
} from '@tanstack/react-router';
import { render } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Suspense, type ReactNode } from 'react';
import { Toaster } from 'sonner';
import type { SchemaAction } from '@/api/types';
import { setServerNow } from '@/shared/clock';
import { setTimeZone } from '@/shared/time';

/** Friday 27 November 2026, midnight on the Azores. */
export const FRIDAY = 1_795_741_200;
export const HOUR = 3600;
export const at = (hours: number, minutes = 0) => FRIDAY + hours * HOUR + minutes * 60;
export const TODAY = '2026-11-27';

const DISPATCHER: SchemaAction[] = [
  'use',
  'see_board',
  'see_customers',
  'plan',
  'change_visits',
  'make_orders',
  'see_orders',
];

interface Setting {
  may?: SchemaAction[];
  path?: string;
  /** The address with its parameters, for what reads them. */
  route?: string;
  demo?: boolean;
  directory?: string;
  /** Whose page it is: what lies on a phone lies there for one person. */
  account?: number;
}

/** Draw something; the hands of a user, and the address it leads to. */
export async function draw(
  part: ReactNode,
  { may = DISPATCHER, path = '/', route = '/$', demo = false, directory = '', account = 1 }: Setting = {},
) {
  setTimeZone('Atlantic/Azores');
  setServerNow(at(10, 40));
  const client = new QueryClient({
    defaultOptions: { queries: { retry: false, staleTime: 0 }, mutations: { retry: false } },
  });
  client.setQueryData(['session'], {
    account: {
      id: account,
      name: 'Dora Quill',
      email: 'dora@example.org',
      role: 'dispatcher',
      role_name: 'dispatcher',
      technician_id: 1,
    },
    may,
    company: { name: 'Test Lifts', time_zone: 'Atlantic/Azores' },
    csrf_token: '',
    now: 0,
    demo,
    directory,
  });
  const root = createRootRoute();
  const page = createRoute({
    getParentRoute: () => root,
    path: route,
    component: () => (
      <QueryClientProvider client={client}>
        <Suspense fallback="…">{part}</Suspense>
        <Toaster />
      </QueryClientProvider>
    ),
  });
  const router = createRouter({
    routeTree: root.addChildren([page]),
    history: createMemoryHistory({ initialEntries: [path] }),
  });
  await router.load();
  render(<RouterProvider router={router as never} />);
  return { user: userEvent.setup(), client, router };
}
