// Reports for tests of the phone.

import type { DayLog } from '@/features/field/sync/daylog';
import type { Report } from '@/features/field/sync/report';

const USUAL = [
  'know',
  'depart',
  'arrive',
  'form',
  'tasks',
  'photos',
  'parts',
  'time',
  'charges',
  'notes',
  'acceptance',
  'finish',
];

export const noEntries = (more: Partial<Report['entries']> = {}): Report['entries'] => ({
  planned: [],
  used: [],
  removed: [],
  presences: [],
  times: [],
  charges: [],
  mileages: [],
  nothing_more: [],
  ...more,
});

export const emptyReport = (more: Partial<Report> = {}): Report => ({
  visit_id: 7,
  part: 1,
  state: 'on_site',
  technician: 'Dora Quill',
  steps: USUAL.map((kind) => ({ kind, must: ['depart', 'arrive', 'finish'].includes(kind) })),
  standings: [],
  tasks: [],
  questions: [],
  answers: [],
  notes: [],
  pictures: [],
  acceptance: null,
  looked: true,
  entries: noEntries(),
  ...more,
});

/** The usual steps, of which some have to be done. */
export const needing = (...kinds: string[]) =>
  USUAL.map((kind) => ({ kind, must: ['depart', 'arrive', 'finish', ...kinds].includes(kind) }));

export const task = (words: string, at: number | null = null) => ({
  words,
  at,
  by: at === null ? '' : 'Ines Falk',
});

/** A day of which nothing is said yet. */
export const emptyLog = (more: Partial<DayLog> = {}): DayLog => ({
  technician_id: 1,
  day: '2026-11-23',
  began: null,
  began_typed: false,
  ended: null,
  ended_typed: false,
  vehicle_id: null,
  vehicle: '',
  drives: false,
  odometer_began: null,
  odometer_ended: null,
  checks: {},
  questions: [],
  pauses: [],
  fuel: [],
  explained: [],
  visits: [],
  currency: 'EUR',
  vehicles: [{ id: 3, name: 'Van 3' }],
  earlier: [],
  known: [],
  ...more,
});
