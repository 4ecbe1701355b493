// Free stretches of the days shown, as the timetables tell them.

import type { Lane } from '../model';

export interface FreeStretch {
  who: number;
  start: number;
  end: number;
}

const LEAST = 1800;

/** Stretches of a shift from now on in which nobody works, drives or rests: half an hour and more, in reading order. */
export function freeStretches(lanes: Lane[], now: number): FreeStretch[] {
  return lanes.flatMap((lane) =>
    lane.days.flatMap((day) => {
      if (!day.shift) return [];
      const busy = day.timetable.stretches.filter((row) => row.kind !== 'wait');
      const found: FreeStretch[] = [];
      let at = Math.max(day.shift.start, now);
      for (const row of [...busy, { start: day.shift.end, end: day.shift.end }]) {
        if (row.start - at >= LEAST) found.push({ who: lane.technician_id, start: at, end: row.start });
        at = Math.max(at, row.end);
      }
      return found;
    }),
  );
}
