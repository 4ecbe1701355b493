import type { SchemaStep, SchemaVisitState } from '@/api/types';

export interface Action {
  step: SchemaStep;
  label: string;
  /** Asked before the step is taken. */
  ask?: string;
}

/** One large action for each state, and the smaller ones beside it. */
export const ACTIONS: Partial<Record<SchemaVisitState, { main: Action; others: Action[] }>> = {
  sent: {
    main: { step: 'accept', label: 'Accept' },
    others: [{ step: 'decline', label: 'Decline', ask: 'Why can you not do it?' }],
  },
  accepted: {
    main: { step: 'depart', label: 'Set out' },
    others: [
      { step: 'arrive', label: 'I am there already' },
      { step: 'decline', label: 'Decline', ask: 'Why can you not do it?' },
    ],
  },
  en_route: { main: { step: 'arrive', label: 'Arrived' }, others: [] },
  on_site: {
    main: { step: 'finish', label: 'Finish', ask: 'What was done?' },
    others: [{ step: 'hold', label: 'Put on hold', ask: 'What are you waiting for?' }],
  },
  on_hold: { main: { step: 'resume', label: 'Go on' }, others: [] },
};

const ENDED: ReadonlySet<SchemaVisitState> = new Set(['done', 'reviewed', 'missed', 'cancelled']);

/** The visit to look at next: the one under way, else the first that is not over. */
export function upNext<Visit extends { state: SchemaVisitState }>(visits: Visit[]): Visit | undefined {
  const underWay = visits.find((visit) => visit.state === 'en_route' || visit.state === 'on_site');
  return underWay ?? visits.find((visit) => !ENDED.has(visit.state));
}
