// The steps of the work, as the office computes them (core/reports/steps.py). Both are held to the same answers by
// tests/core/reports/steps.json: without a signal the phone must say what the office would.

import { KIND_WORDS, WAY } from '@/shared/steps';

export interface WorkStep {
  kind: string;
  must: boolean;
}

/** How a step stands; `missing`: what is not there yet, in words. */
export interface Standing extends WorkStep {
  done: boolean;
  missing: string[];
}

/** What is known of a visit's work so far. */
export interface Facts {
  state: string;
  tasks: number;
  questions: number;
  tasks_open: string[];
  questions_open: string[];
  answered: number;
  photos: number;
  parts_open: string[];
  looked: boolean;
  noted: boolean;
  accepted: boolean;
  parts_said: boolean;
  times_said: boolean;
  charges_said: boolean;
}

/** After which states a step of the visit's own way has been taken. */
const AFTER: Record<string, readonly string[]> = {
  depart: ['en_route', 'on_site', 'on_hold', 'done', 'reviewed'],
  arrive: ['on_site', 'on_hold', 'done', 'reviewed'],
  finish: ['done', 'reviewed'],
};

export const isOfTheWay = (kind: string) => WAY.includes(kind);

function missingOf(kind: string, facts: Facts): string[] {
  const after = AFTER[kind];
  if (after) return after.includes(facts.state) ? [] : [KIND_WORDS[kind]!];
  if (kind === 'tasks') return facts.tasks_open;
  if (kind === 'form') {
    if (facts.questions_open.length > 0) return facts.questions_open;
    return facts.answered > 0 ? [] : ['Nothing is answered'];
  }
  if (kind === 'parts' && facts.parts_open.length > 0) return facts.parts_open;
  const lacking: Record<string, [boolean, string]> = {
    know: [facts.looked, 'Not looked at'],
    photos: [facts.photos > 0, 'No photo'],
    notes: [facts.noted, 'Nothing is noted'],
    acceptance: [facts.accepted, 'Nobody has signed'],
    parts: [facts.parts_said, 'Nothing is said of parts'],
    time: [facts.times_said, 'Nobody has looked at the times'],
    charges: [facts.charges_said, 'Nothing is said of charges'],
  };
  const [done, words] = lacking[kind] ?? [true, ''];
  return done ? [] : [words];
}

/** How each step stands that has anything to it, in the order of the steps. */
export function standings(steps: readonly WorkStep[], facts: Facts): Standing[] {
  const there: Record<string, boolean> = { tasks: facts.tasks > 0, form: facts.questions > 0 };
  return steps
    .filter(({ kind }) => there[kind] ?? true)
    .map(({ kind, must }) => {
      const missing = missingOf(kind, facts);
      return { kind, must, done: missing.length === 0, missing };
    });
}

/** The step to take next: the first that must be taken and is not. */
export const nextOf = (rows: readonly Standing[]): Standing | null =>
  rows.find(({ must, done }) => must && !done) ?? null;

/** What has to be done before the work may be finished. */
export const inTheWay = (rows: readonly Standing[]): Standing[] =>
  rows.filter(({ kind, must, done }) => must && !done && kind !== 'finish');
