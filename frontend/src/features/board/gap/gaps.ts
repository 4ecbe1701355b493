// Free stretches of the days shown, as the server counts them.

import type { Lane } from '../model';

export interface FreeStretch {
  who: number;
  start: number;
  end: number;
}

/** Stretches that are worth filling, in reading order. */
export const freeStretches = (lanes: Lane[]): FreeStretch[] =>
  lanes.flatMap((lane) =>
    lane.days.flatMap((day) => day.workload.gaps.map((gap) => ({ who: lane.technician_id, ...gap }))),
  );
