// Where one can go, and what stands at the top for whom. The rest is in the command field.

import type { SchemaAction, SchemaRole } from '@/api/types';

/** In the order of the work: take it in, plan it, look it up, tell people, set the house up. */
export const PLACES = [
  { to: '/intake', words: 'Intake', action: 'take_requests', group: 'take' },
  { to: '/requests', words: 'Requests', action: 'see_orders', group: 'take' },
  { to: '/quotes', words: 'Quotes', action: 'see_orders', group: 'take' },
  { to: '/board', words: 'Board', action: 'see_board', group: 'plan' },
  { to: '/capacity', words: 'Capacity', action: 'see_board', group: 'plan' },
  { to: '/playbooks', words: 'Playbooks', action: 'see_board', group: 'plan' },
  { to: '/orders', words: 'Orders', action: 'see_orders', group: 'look up' },
  { to: '/customers', words: 'Customers', action: 'see_customers', group: 'look up' },
  { to: '/stock', words: 'Stock', action: 'see_stock', group: 'look up' },
  { to: '/outbox', words: 'Outbox', action: 'see_messages', group: 'tell' },
  { to: '/open-work', words: 'Open work from a file', action: 'import', group: 'set up' },
  {
    to: '/customers/files',
    words: 'Customers from files and as files',
    action: 'see_customers',
    group: 'set up',
  },
  { to: '/set-up', words: 'Set-up', action: 'see_orders', group: 'set up' },
  { to: '/set-up/first-steps', words: 'First steps', action: 'see_orders', group: 'set up' },
  { to: '/set-up/company', words: 'Company', action: 'see_orders', group: 'set up' },
  { to: '/set-up/people', words: 'Technicians', action: 'see_orders', group: 'set up' },
  { to: '/set-up/accounts', words: 'Accounts', action: 'manage_accounts', group: 'set up' },
  { to: '/set-up/depots', words: 'Depots', action: 'see_orders', group: 'set up' },
  { to: '/set-up/job-types', words: 'Job types', action: 'see_orders', group: 'set up' },
  { to: '/set-up/prices', words: 'Prices', action: 'see_orders', group: 'set up' },
  { to: '/set-up/skills', words: 'Skills', action: 'see_orders', group: 'set up' },
  {
    to: '/set-up/skills-of-everybody',
    words: 'Who can do what',
    action: 'see_orders',
    group: 'set up',
  },
  { to: '/set-up/certificates', words: 'Certificates', action: 'see_orders', group: 'set up' },
  { to: '/set-up/tags', words: 'Tags', action: 'see_orders', group: 'set up' },
  { to: '/set-up/fields', words: 'Own fields', action: 'see_orders', group: 'set up' },
  { to: '/set-up/areas', words: 'Areas', action: 'see_orders', group: 'set up' },
  { to: '/set-up/holidays', words: 'Holidays', action: 'see_orders', group: 'set up' },
] as const satisfies { to: string; words: string; action: SchemaAction; group: string }[];

export type Place = (typeof PLACES)[number];

/** More than this is read, not seen. */
export const MOST_AT_THE_TOP = 8;

const AT_THE_TOP: Record<SchemaRole, Place['to'][]> = {
  intake: ['/intake', '/requests', '/quotes', '/board', '/orders', '/customers', '/outbox'],
  dispatcher: ['/intake', '/requests', '/quotes', '/board', '/orders', '/customers', '/stock', '/outbox'],
  manager: ['/quotes', '/board', '/capacity', '/playbooks', '/orders', '/customers', '/stock', '/set-up'],
  administrator: ['/intake', '/requests', '/quotes', '/board', '/orders', '/customers', '/stock', '/set-up'],
  reviewer: ['/board', '/capacity', '/orders', '/customers', '/outbox'],
  technician: [],
  // Whatever of these it may see.
  own: ['/intake', '/requests', '/board', '/capacity', '/orders', '/customers', '/stock', '/outbox'],
};

/** The places at the top for a role, in groups, without those it may not see. */
export function atTheTop(role: SchemaRole, allowed: (action: SchemaAction) => boolean): Place[][] {
  const wanted = PLACES.filter((place) => AT_THE_TOP[role].includes(place.to) && allowed(place.action));
  const groups = [...new Set(wanted.map((place) => place.group))];
  return groups.map((group) => wanted.filter((place) => place.group === group));
}
