// A placement that waits for a reason: asked for in one place, whoever wanted it.

import { useSyncExternalStore } from 'react';
import type { Grabbed } from './board/interaction';

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

let asked: Asked | null = null;
const listeners = new Set<() => void>();

export function ask(wanted: Asked | null) {
  asked = wanted;
  listeners.forEach((tell) => tell());
}

export const useAsked = (): Asked | null =>
  useSyncExternalStore(
    (tell) => {
      listeners.add(tell);
      return () => listeners.delete(tell);
    },
    () => asked,
  );
