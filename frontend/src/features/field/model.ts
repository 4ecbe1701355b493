import type { SchemaActionOut, SchemaStep } from '@/api/types';

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
