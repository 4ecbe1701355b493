import type { SchemaActionOut, SchemaStep } from '@/api/types';
import { STEP_WORDS } from '@/shared/signs';
import type { Deed } from './sync/deeds';
import type { DayKind } from './sync/daylog';
import { isOfReport, type Bodies, type ReportKind } from './sync/report';

/** What a step is called on the phone, and what is asked before it is taken. */
const WORDS: Partial<Record<SchemaStep, { label: string; ask?: string }>> = {
  accept: { label: 'Accept' },
  decline: { label: 'Decline', ask: 'Why can you not do it?' },
  depart: { label: 'Set out' },
  arrive: { label: 'Arrived' },
  finish: { label: 'Finish', ask: 'What was done?' },
  hold: { label: 'Put on hold', ask: 'What are you waiting for?' },
  resume: { label: 'Go on' },
};

export interface Action {
  step: SchemaStep;
  label: string;
  /** Asked before the step is taken. */
  ask?: string;
}

/** One large action, the first that the server offers, and the smaller ones beside it. */
export function actionsOf(offered: SchemaActionOut[], leads: boolean): Action[] {
  return offered.map(({ step, needs_note }, index) => {
    const words = WORDS[step] ?? { label: step };
    return {
      step,
      label: labelOf(step, words.label, { beside: index > 0, leads }),
      ask: needs_note && (leads || step === 'decline') ? (words.ask ?? 'Why?') : undefined,
    };
  });
}

function labelOf(step: SchemaStep, label: string, { beside, leads }: { beside: boolean; leads: boolean }) {
  if (step === 'arrive' && beside) return 'I am there already';
  return step === 'finish' && !leads ? 'Leave' : label;
}

interface Listed {
  state: string;
  over: boolean;
  movable: boolean;
}

/** The visit to look at next: the one somebody is at or on the way to, then one on hold, then the first ahead. */
export function upNext<Visit extends Listed>(visits: Visit[]): Visit | undefined {
  const ahead = visits.filter((visit) => !visit.over);
  const begun = ahead.filter((visit) => !visit.movable);
  return begun.find((visit) => visit.state !== 'on_hold') ?? begun[0] ?? ahead[0];
}

/** What was done, in a few words, for whoever did it. */
export function wordsOf({ kind, body }: Pick<Deed, 'kind' | 'body'>): string {
  if (kind === 'step') {
    const { step, note } = body as { step: SchemaStep; note: string };
    return note ? `${STEP_WORDS[step]}: ${note}` : STEP_WORDS[step];
  }
  if (kind in DAY_WORDS) return DAY_WORDS[kind as DayKind];
  return isOfReport(kind) ? (REPORT_WORDS[kind] as (body: unknown) => string)(body) : kind;
}

const DAY_WORDS: Record<DayKind, string> = {
  'clock on': 'began the day',
  'clock off': 'ended the day',
  pause: 'a break',
  vehicle: 'the vehicle of the day',
  fuel: 'fuel',
  'fuel out': 'took fuel off',
  'typed time': 'a typed time of the day',
  explain: 'an answer about the day',
};

const ENDED = { signed: 'signed', refused: 'refused to sign', absent: 'nobody was there to sign' };
const REPORT_WORDS: { [K in ReportKind]: (body: Bodies[K]) => string } = {
  look: () => 'looked at what there is to know',
  task: ({ words, done }) => (done ? `ticked “${words}”` : `took the tick back from “${words}”`),
  answer: ({ value }) => (value === null ? 'took an answer away' : `answered: ${String(value)}`),
  note: ({ reader, text }) => `note for ${reader === 'self' ? 'yourself' : `the ${reader}`}: ${text}`,
  picture: ({ kind }) => `took a ${kind}`,
  'picture out': () => 'left a photo out',
  part: ({ quantity, name }) => (quantity > 0 ? `used ${quantity} × ${name}` : `did not need ${name}`),
  'part out': () => 'took a part off what was used',
  'removed part': ({ words, what }) => `took out: ${words || 'a part'}, ${what}`,
  'part asked': ({ quantity, name }) => `asked for ${quantity} × ${name}`,
  time: ({ sort, minutes }) =>
    minutes === null ? `let the stamps tell the ${sort}` : `said ${minutes} min of ${sort}`,
  charge: ({ words, quantity }) => `charged ${quantity / 1000} × ${words}`,
  'charge out': () => 'took a charge off',
  mileage: ({ metres }) => (metres === null ? 'took the kilometres away' : `drove ${metres / 1000} km`),
  'nothing more': ({ of, said }) => `${said ? 'said' : 'no longer says'} that of ${of} this is all`,
  'send report': ({ addresses }) => `sends the report to ${addresses.join(', ')}`,
  acceptance: ({ ended, name }) => [name?.trim(), ENDED[ended]].filter(Boolean).join(' '),
};
