import type { SchemaStep, SchemaVisitState } from '@/api/types';

/** What a state is called on the screen. */
export const STATE_WORDS: Record<SchemaVisitState, string> = {
  open: 'open',
  placed: 'placed, not sent',
  sent: 'sent',
  accepted: 'accepted',
  en_route: 'en route',
  on_site: 'on site',
  on_hold: 'on hold',
  done: 'done',
  reviewed: 'reviewed',
  missed: 'missed',
  cancelled: 'cancelled',
};

/** What a stamp says happened. */
export const STEP_WORDS: Record<SchemaStep, string> = {
  place: 'placed',
  unplace: 'put back in the backlog',
  send: 'sent',
  accept: 'accepted',
  decline: 'declined',
  depart: 'set out',
  arrive: 'arrived',
  hold: 'put on hold',
  resume: 'went on',
  finish: 'finished',
  review: 'reviewed',
  miss: 'missed',
  cancel: 'cancelled',
  reopen: 'opened again',
};
