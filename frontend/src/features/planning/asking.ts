// A placement that waits for a reason: asked for in one place, whoever wanted it.

import { useSyncExternalStore } from 'react';
import type { Placement } from './commands';

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
