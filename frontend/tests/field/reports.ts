// Reports for tests of the phone.

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
