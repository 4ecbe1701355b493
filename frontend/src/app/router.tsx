import { createRootRoute, createRoute, createRouter, Outlet, redirect } from '@tanstack/react-router';
import { FieldDay, FieldVisit } from '@/features/field';
import { JobTypesPage } from '@/features/catalogue';
import { FieldsPage, HolidaysPage, SettingsPage, SetUp } from '@/features/company';
import { AreasPage, CustomerPage, CustomersPage, FilesPage } from '@/features/customers';
import {
  CapacityPage,
  IntakePage,
  intakeSearch,
  PublicForm,
  RequestsPage,
  requestsSearch,
} from '@/features/intake';
import { OutboxPage } from '@/features/messages';
import { OpenWorkPage, OrderPage, OrdersPage, ordersSearch } from '@/features/orders';
import { may, sessionQuery, SignIn, useSession } from '@/features/people';
import { BoardPage, boardSearch, leftAt, PlaybooksPage } from '@/features/planning';
import { sentenceOf } from '@/api/client';
import { serverNow } from '@/shared/clock';
import { onceListening } from '@/shared/live';
import { isoDay } from '@/shared/time';
import { Button } from '@/design/Button';
import { queryClient } from './queryClient';
import { Shell } from './Shell';

const session = () => queryClient.ensureQueryData(sessionQuery);

const root = createRootRoute({ component: Outlet, notFoundComponent: NotHere, errorComponent: Broken });

const signIn = createRoute({
  getParentRoute: () => root,
  path: '/sign-in',
  component: function SignInRoute() {
    return <SignIn demo={useSession().demo} />;
  },
});

const home = createRoute({
  getParentRoute: () => root,
  path: '/',
  beforeLoad: async () => {
    const current = await session();
    if (!current.account) throw redirect({ to: '/sign-in' });
    if (may(current, 'work_in_field')) throw redirect({ to: '/field' });
    throw redirect({ to: current.account.role === 'intake' ? '/intake' : '/board' });
  },
});

const office = createRoute({
  getParentRoute: () => root,
  id: 'office',
  component: Shell,
  beforeLoad: async () => {
    const current = await session();
    if (!current.account) throw redirect({ to: '/sign-in' });
    if (!may(current, 'see_orders')) throw redirect({ to: '/field' });
    await onceListening();
  },
});

const setUp = createRoute({ getParentRoute: () => office, path: '/set-up', component: SetUp });

const ask = createRoute({ getParentRoute: () => root, path: '/ask', component: PublicForm });

const phone = createRoute({
  getParentRoute: () => root,
  id: 'phone',
  beforeLoad: async () => {
    const current = await session();
    if (!current.account) throw redirect({ to: '/sign-in' });
    if (!may(current, 'work_in_field')) throw redirect({ to: '/' });
  },
});

const routes = root.addChildren([
  signIn,
  home,
  ask,
  office.addChildren([
    createRoute({
      getParentRoute: () => office,
      path: '/board',
      component: BoardPage,
      validateSearch: boardSearch,
      // An address that says nothing opens the board as this person left it.
      beforeLoad: async ({ search, cause }) => {
        if (cause !== 'enter' || Object.keys(search).length > 0) return;
        const left = leftAt((await session()).account?.email ?? '', isoDay(serverNow()));
        if (Object.keys(left).length > 0) throw redirect({ to: '/board', search: left, replace: true });
      },
    }),
    createRoute({
      getParentRoute: () => office,
      path: '/intake',
      component: IntakePage,
      validateSearch: intakeSearch,
    }),
    createRoute({
      getParentRoute: () => office,
      path: '/requests',
      component: RequestsPage,
      validateSearch: requestsSearch,
    }),
    createRoute({
      getParentRoute: () => office,
      path: '/orders',
      component: OrdersPage,
      validateSearch: ordersSearch,
    }),
    createRoute({ getParentRoute: () => office, path: '/orders/$orderId', component: OrderPage }),
    createRoute({ getParentRoute: () => office, path: '/customers', component: CustomersPage }),
    createRoute({ getParentRoute: () => office, path: '/customers/files', component: FilesPage }),
    createRoute({ getParentRoute: () => office, path: '/customers/$customerId', component: CustomerPage }),
    createRoute({ getParentRoute: () => office, path: '/capacity', component: CapacityPage }),
    setUp.addChildren([
      createRoute({ getParentRoute: () => setUp, path: '/settings', component: SettingsPage }),
      createRoute({ getParentRoute: () => setUp, path: '/job-types', component: JobTypesPage }),
      createRoute({ getParentRoute: () => setUp, path: '/fields', component: FieldsPage }),
      createRoute({ getParentRoute: () => setUp, path: '/areas', component: AreasPage }),
      createRoute({ getParentRoute: () => setUp, path: '/holidays', component: HolidaysPage }),
    ]),
    createRoute({ getParentRoute: () => office, path: '/playbooks', component: PlaybooksPage }),
    createRoute({ getParentRoute: () => office, path: '/outbox', component: OutboxPage }),
    createRoute({ getParentRoute: () => office, path: '/open-work', component: OpenWorkPage }),
  ]),
  phone.addChildren([
    createRoute({ getParentRoute: () => phone, path: '/field', component: FieldDay }),
    createRoute({ getParentRoute: () => phone, path: '/field/$visitId', component: FieldVisit }),
  ]),
]);

export const router = createRouter({ routeTree: routes, defaultPreload: false });

declare module '@tanstack/react-router' {
  interface Register {
    router: typeof router;
  }
}

function NotHere() {
  return (
    <div className="p-8">
      <h1 className="text-xl font-semibold">There is nothing at this address.</h1>
      <a className="underline" href="/">
        To the start
      </a>
    </div>
  );
}

function Broken({ error }: { error: unknown }) {
  return (
    <div className="max-w-lg space-y-3 p-8" role="alert">
      <h1 className="text-xl font-semibold">This page broke.</h1>
      <p className="text-ink-soft">{sentenceOf(error)}</p>
      <Button onClick={() => window.location.reload()}>Load it again</Button>
    </div>
  );
}
