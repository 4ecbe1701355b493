// A placement that waits for a reason, or for a length: asked for in one place, whoever wanted it.

import { useSyncExternalStore } from 'react';
import type { Grabbed } from './lanes/interaction';

/** Where a visit is to go. */
export interface Placement {
  visit: Grabbed;
  technicianId: number;
  start: number;
  /** Who goes with the technician; left out: those who go already. */
  mates?: number[];
  /** Why it goes there although a limit speaks against it. */
  because?: string;
}

/** A placement that is made once somebody says why. */
export interface Asked {
  placement: Placement;
  reasons: string[];
}

/** What is done once somebody says how long a visit takes. */
export interface LengthAsked {
  visit: Grabbed;
  then: () => void;
}

const reasons = kept<Asked>();
const lengths = kept<LengthAsked>();

export const ask = reasons.set;
export const useAsked = reasons.use;
export const useLengthAsked = lengths.use;
export const askLength = lengths.set;

/** One question that waits for its answer, or none. */
function kept<Question>() {
  let waiting: Question | null = null;
  const listeners = new Set<() => void>();
  const listen = (tell: () => void) => {
    listeners.add(tell);
    return () => listeners.delete(tell);
  };
  return {
    set: (wanted: Question | null) => {
      waiting = wanted;
      listeners.forEach((tell) => tell());
    },
    use: (): Question | null => useSyncExternalStore(listen, () => waiting),
  };
}
