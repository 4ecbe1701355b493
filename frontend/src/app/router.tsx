import {
  createRootRoute,
  createRoute,
  createRouter,
  lazyRouteComponent,
  notFound,
  Outlet,
  redirect,
} from '@tanstack/react-router';
import { signInSearch } from '@/features/accounts';
import { intakeSearch, oneOffSearch, requestsSearch } from '@/features/intake';
import { ordersSearch } from '@/features/orders';
import { newQuoteSearch, quotesSearch } from '@/features/quotes';
import { peopleSearch } from '@/features/set_up';
import { stockSearch, tonightSearch } from '@/features/supply';
import { may, sessionQuery, type Session } from '@/features/people';
import { BoardPage, boardSearch, fetchFirst, fetchHeads, leftAt, saysNothing } from '@/features/board';
import { serverNow } from '@/shared/clock';
import { onceListening } from '@/shared/live';
import { isoDay } from '@/shared/time';
import { queryClient } from './queryClient';
import { Broken, NotHere } from './Nowhere';
import { Phone } from './Phone';
import { Shell } from './Shell';

// Only the board is in the first parcel: whoever opens it has a phone at the ear.
const accounts = () => import('@/features/accounts/pages');
const catalogue = () => import('@/features/catalogue/pages');
const company = () => import('@/features/company/pages');
const customers = () => import('@/features/customers/pages');
const field = () => import('@/features/field/pages');
const intake = () => import('@/features/intake/pages');
const messages = () => import('@/features/messages/pages');
const pricing = () => import('@/features/pricing/pages');
const openWork = () => import('@/features/open_work/pages');
const orders = () => import('@/features/orders/pages');
const appointments = () => import('@/features/appointments/pages');
const setUpPages = () => import('@/features/set_up/pages');
const quotes = () => import('@/features/quotes/pages');
const publicQuotes = () => import('@/features/quotes/public/pages');
const stock = () => import('@/features/stock/pages');
const supply = () => import('@/features/supply/pages');
const scheduling = () => import('@/features/scheduling/pages');

const session = () => queryClient.ensureQueryData(sessionQuery);

const root = createRootRoute({ component: Outlet, notFoundComponent: NotHere, errorComponent: Broken });

const signIn = createRoute({
  getParentRoute: () => root,
  path: '/sign-in',
  component: lazyRouteComponent(accounts, 'SignIn'),
  validateSearch: signInSearch,
  beforeLoad: session,
});

const forgotten = createRoute({
  getParentRoute: () => root,
  path: '/new-password',
  component: lazyRouteComponent(accounts, 'ForgottenPassword'),
  beforeLoad: session,
});

const choosePassword = createRoute({
  getParentRoute: () => root,
  path: '/new-password/$key',
  component: lazyRouteComponent(accounts, 'ChoosePassword'),
  beforeLoad: session,
});

const welcome = createRoute({
  getParentRoute: () => root,
  path: '/welcome/$key',
  component: lazyRouteComponent(accounts, 'Welcome'),
  beforeLoad: session,
});

const ownAccount = createRoute({
  getParentRoute: () => root,
  path: '/account',
  component: lazyRouteComponent(accounts, 'OwnAccountPage'),
  beforeLoad: async () => {
    if (!(await session()).account) throw redirect({ to: '/sign-in' });
  },
});

const home = createRoute({
  getParentRoute: () => root,
  path: '/',
  beforeLoad: async () => {
    const current = await session();
    if (!current.account) throw redirect({ to: '/sign-in' });
    if (!may(current, 'see_orders')) throw redirect({ to: '/field' });
    throw redirect({ to: startOf(current) });
  },
});

/** Where somebody of the office begins: who only takes calls, at the telephone. */
function startOf(current: Session) {
  if (may(current, 'plan')) return '/board';
  if (may(current, 'take_requests')) return '/intake';
  return may(current, 'see_board') ? '/board' : '/orders';
}

const office = createRoute({
  getParentRoute: () => root,
  id: 'office',
  component: Shell,
  beforeLoad: async ({ location }) => {
    const current = await session();
    if (!current.account) throw redirect({ to: '/sign-in' });
    if (!may(current, 'see_orders')) throw redirect({ to: '/field' });
    const ahead = location.pathname === '/board' && may(current, 'see_board');
    if (ahead) fetchHeads(queryClient);
    await onceListening();
    // An empty address may yet lead to where the board was left.
    if (ahead && location.searchStr)
      fetchFirst(queryClient, boardSearch.parse(location.search)).catch(() => null);
  },
});

const setUp = createRoute({
  getParentRoute: () => office,
  path: '/set-up',
  component: lazyRouteComponent(company, 'SetUp'),
});

const stockFrame = createRoute({
  getParentRoute: () => office,
  path: '/stock',
  component: lazyRouteComponent(supply, 'StockFrame'),
});

const ask = createRoute({
  getParentRoute: () => root,
  path: '/ask',
  component: lazyRouteComponent(intake, 'PublicForm'),
});

/** A customer's quote, without an account. */
const publicQuote = createRoute({
  getParentRoute: () => root,
  path: '/quote/$address',
  component: lazyRouteComponent(publicQuotes, 'PublicQuote'),
  // Who they are is nothing to the page, but how days are said comes with it.
  beforeLoad: session,
});

const phone = createRoute({
  getParentRoute: () => root,
  id: 'phone',
  component: Phone,
  beforeLoad: async () => {
    const current = await session();
    if (!current.account) throw redirect({ to: '/sign-in' });
    if (!may(current, 'work_in_field')) throw redirect({ to: '/' });
  },
});

/** An address that names no record is no page. */
function onlyNumbers(key: string) {
  if (!/^[1-9]\d{0,17}$/.test(key)) throw notFound();
}

const routes = root.addChildren([
  signIn,
  forgotten,
  choosePassword,
  welcome,
  ownAccount,
  home,
  ask,
  publicQuote,
  office.addChildren([
    createRoute({
      getParentRoute: () => office,
      path: '/board',
      component: BoardPage,
      validateSearch: boardSearch,
      // An address that says nothing opens the board as this person left it, also from the board itself:
      // "Orders" and at once "Board" never left it.
      beforeLoad: async ({ search }) => {
        if (!saysNothing(search)) return;
        const left = leftAt((await session()).account?.email ?? '', isoDay(serverNow()));
        if (!saysNothing(left)) throw redirect({ to: '/board', search: left, replace: true });
      },
    }),
    createRoute({
      getParentRoute: () => office,
      path: '/intake',
      component: lazyRouteComponent(intake, 'IntakePage'),
      validateSearch: intakeSearch,
    }),
    createRoute({
      getParentRoute: () => office,
      path: '/requests',
      component: lazyRouteComponent(intake, 'RequestsPage'),
      validateSearch: requestsSearch,
    }),
    createRoute({
      getParentRoute: () => office,
      path: '/orders',
      component: lazyRouteComponent(orders, 'OrdersPage'),
      validateSearch: ordersSearch,
    }),
    createRoute({
      getParentRoute: () => office,
      path: '/orders/new',
      component: lazyRouteComponent(intake, 'OneOffPage'),
      validateSearch: oneOffSearch,
    }),
    createRoute({
      getParentRoute: () => office,
      path: '/orders/$orderId',
      beforeLoad: ({ params }) => onlyNumbers(params.orderId),
      component: lazyRouteComponent(orders, 'OrderPage'),
    }),
    createRoute({
      getParentRoute: () => office,
      path: '/quotes',
      component: lazyRouteComponent(quotes, 'QuotesPage'),
      validateSearch: quotesSearch,
    }),
    createRoute({
      getParentRoute: () => office,
      path: '/quotes/new',
      component: lazyRouteComponent(quotes, 'NewQuotePage'),
      validateSearch: newQuoteSearch,
    }),
    createRoute({
      getParentRoute: () => office,
      path: '/quotes/$quoteId',
      beforeLoad: ({ params }) => onlyNumbers(params.quoteId),
      component: lazyRouteComponent(quotes, 'QuotePage'),
    }),
    createRoute({
      getParentRoute: () => office,
      path: '/customers',
      component: lazyRouteComponent(customers, 'CustomersPage'),
    }),
    createRoute({
      getParentRoute: () => office,
      path: '/customers/files',
      component: lazyRouteComponent(customers, 'FilesPage'),
    }),
    createRoute({
      getParentRoute: () => office,
      path: '/customers/$customerId',
      beforeLoad: ({ params }) => onlyNumbers(params.customerId),
      component: lazyRouteComponent(customers, 'CustomerPage'),
    }),
    createRoute({
      getParentRoute: () => office,
      path: '/capacity',
      component: lazyRouteComponent(appointments, 'CapacityPage'),
    }),
    setUp.addChildren([
      createRoute({
        getParentRoute: () => setUp,
        path: '/',
        beforeLoad: () => {
          throw redirect({ to: '/set-up/settings', replace: true });
        },
      }),
      createRoute({
        getParentRoute: () => setUp,
        path: '/company',
        component: lazyRouteComponent(company, 'CompanyPage'),
      }),
      createRoute({
        getParentRoute: () => setUp,
        path: '/settings',
        component: lazyRouteComponent(company, 'SettingsPage'),
      }),
      createRoute({
        getParentRoute: () => setUp,
        path: '/job-types',
        component: lazyRouteComponent(catalogue, 'JobTypesPage'),
      }),
      createRoute({
        getParentRoute: () => setUp,
        path: '/first-steps',
        component: lazyRouteComponent(setUpPages, 'FirstSteps'),
      }),
      createRoute({
        getParentRoute: () => setUp,
        path: '/people',
        validateSearch: peopleSearch,
        component: lazyRouteComponent(setUpPages, 'PeoplePage'),
      }),
      createRoute({
        getParentRoute: () => setUp,
        path: '/prices',
        component: lazyRouteComponent(pricing, 'PricesPage'),
      }),
      createRoute({
        getParentRoute: () => setUp,
        path: '/skills-of-everybody',
        component: lazyRouteComponent(setUpPages, 'SkillsSheet'),
      }),
      createRoute({
        getParentRoute: () => setUp,
        path: '/accounts',
        component: lazyRouteComponent(accounts, 'AccountsPage'),
      }),
      createRoute({
        getParentRoute: () => setUp,
        path: '/depots',
        component: lazyRouteComponent(setUpPages, 'DepotsPage'),
      }),
      createRoute({
        getParentRoute: () => setUp,
        path: '/skills',
        component: lazyRouteComponent(company, 'SkillsPage'),
      }),
      createRoute({
        getParentRoute: () => setUp,
        path: '/certificates',
        component: lazyRouteComponent(company, 'CertificatesPage'),
      }),
      createRoute({
        getParentRoute: () => setUp,
        path: '/archive',
        component: lazyRouteComponent(setUpPages, 'ArchivePage'),
      }),
      createRoute({
        getParentRoute: () => setUp,
        path: '/region',
        component: lazyRouteComponent(setUpPages, 'RegionPage'),
      }),
      createRoute({
        getParentRoute: () => setUp,
        path: '/days-off',
        component: lazyRouteComponent(setUpPages, 'DaysOffPage'),
      }),
      createRoute({
        getParentRoute: () => setUp,
        path: '/files',
        component: lazyRouteComponent(setUpPages, 'SetUpFilesPage'),
      }),
      createRoute({
        getParentRoute: () => setUp,
        path: '/vehicles',
        component: lazyRouteComponent(company, 'VehiclesPage'),
      }),
      createRoute({
        getParentRoute: () => setUp,
        path: '/tags',
        component: lazyRouteComponent(company, 'TagsPage'),
      }),
      createRoute({
        getParentRoute: () => setUp,
        path: '/fields',
        component: lazyRouteComponent(company, 'FieldsPage'),
      }),
      createRoute({
        getParentRoute: () => setUp,
        path: '/areas',
        component: lazyRouteComponent(customers, 'AreasPage'),
      }),
      createRoute({
        getParentRoute: () => setUp,
        path: '/holidays',
        component: lazyRouteComponent(company, 'HolidaysPage'),
      }),
    ]),
    stockFrame.addChildren([
      createRoute({
        getParentRoute: () => stockFrame,
        path: '/',
        beforeLoad: () => {
          throw redirect({ to: '/stock/tonight', replace: true });
        },
      }),
      createRoute({
        getParentRoute: () => stockFrame,
        path: '/tonight',
        validateSearch: tonightSearch,
        component: lazyRouteComponent(supply, 'TonightPage'),
      }),
      createRoute({
        getParentRoute: () => stockFrame,
        path: '/pick/$technicianId',
        validateSearch: tonightSearch,
        beforeLoad: ({ params }) => onlyNumbers(params.technicianId),
        component: lazyRouteComponent(supply, 'PickPage'),
      }),
      createRoute({
        getParentRoute: () => stockFrame,
        path: '/parts',
        validateSearch: stockSearch,
        component: lazyRouteComponent(supply, 'PartsPage'),
      }),
      createRoute({
        getParentRoute: () => stockFrame,
        path: '/parts/new',
        component: lazyRouteComponent(supply, 'NewPartPage'),
      }),
      createRoute({
        getParentRoute: () => stockFrame,
        path: '/parts/$code',
        component: lazyRouteComponent(supply, 'PartPage'),
      }),
      createRoute({
        getParentRoute: () => stockFrame,
        path: '/places',
        component: lazyRouteComponent(supply, 'PlacesPage'),
      }),
      createRoute({
        getParentRoute: () => stockFrame,
        path: '/places/$placeId',
        beforeLoad: ({ params }) => onlyNumbers(params.placeId),
        component: lazyRouteComponent(supply, 'PlacePage'),
      }),
      createRoute({
        getParentRoute: () => stockFrame,
        path: '/purchases',
        component: lazyRouteComponent(supply, 'PurchasesPage'),
      }),
      createRoute({
        getParentRoute: () => stockFrame,
        path: '/purchases/$orderId',
        beforeLoad: ({ params }) => onlyNumbers(params.orderId),
        component: lazyRouteComponent(supply, 'PurchasePage'),
      }),
      createRoute({
        getParentRoute: () => stockFrame,
        path: '/requests',
        component: lazyRouteComponent(supply, 'RequestsPage'),
      }),
      createRoute({
        getParentRoute: () => stockFrame,
        path: '/returns',
        component: lazyRouteComponent(supply, 'ReturnsPage'),
      }),
      createRoute({
        getParentRoute: () => stockFrame,
        path: '/loans',
        component: lazyRouteComponent(supply, 'LoansPage'),
      }),
      createRoute({
        getParentRoute: () => stockFrame,
        path: '/counts',
        component: lazyRouteComponent(stock, 'CountsPage'),
      }),
      createRoute({
        getParentRoute: () => stockFrame,
        path: '/counts/$sheetId',
        beforeLoad: ({ params }) => onlyNumbers(params.sheetId),
        component: lazyRouteComponent(stock, 'CountPage'),
      }),
      createRoute({
        getParentRoute: () => stockFrame,
        path: '/suppliers',
        component: lazyRouteComponent(stock, 'SuppliersPage'),
      }),
    ]),
    createRoute({
      getParentRoute: () => office,
      path: '/playbooks',
      component: lazyRouteComponent(scheduling, 'PlaybooksPage'),
    }),
    createRoute({
      getParentRoute: () => office,
      path: '/outbox',
      component: lazyRouteComponent(messages, 'OutboxPage'),
    }),
    createRoute({
      getParentRoute: () => office,
      path: '/told',
      component: lazyRouteComponent(field, 'ToldPage'),
    }),
    createRoute({
      getParentRoute: () => office,
      path: '/open-work',
      component: lazyRouteComponent(openWork, 'OpenWorkPage'),
    }),
  ]),
  phone.addChildren([
    createRoute({
      getParentRoute: () => phone,
      path: '/field',
      component: lazyRouteComponent(field, 'FieldDay'),
    }),
    createRoute({
      getParentRoute: () => phone,
      path: '/field/days-off',
      component: lazyRouteComponent(field, 'DaysOff'),
    }),
    createRoute({
      getParentRoute: () => phone,
      path: '/field/log',
      component: lazyRouteComponent(field, 'DayLog'),
    }),
    createRoute({
      getParentRoute: () => phone,
      path: '/field/this-phone',
      component: lazyRouteComponent(field, 'ThisPhone'),
    }),
    createRoute({
      getParentRoute: () => phone,
      path: '/field/quotes/$quoteId',
      component: lazyRouteComponent(quotes, 'FieldQuote'),
    }),
    createRoute({
      getParentRoute: () => phone,
      path: '/field/$visitId',
      component: lazyRouteComponent(field, 'FieldVisit'),
    }),
    createRoute({
      getParentRoute: () => phone,
      path: '/field/$visitId/work/$kind',
      component: lazyRouteComponent(field, 'WorkPage'),
    }),
  ]),
]);

export const router = createRouter({ routeTree: routes, defaultPreload: false });

declare module '@tanstack/react-router' {
  interface Register {
    router: typeof router;
  }
}
