/** A placement that is drawn while one looks at it. */
export interface Shown {
  visitId: number;
  technicianId: number;
  start: number;
}

/** The days and people a run may be asked for: what the board shows. */
export interface Choice {
  days: { day: string; start: number; end: number }[];
  lanes: { technician_id: number; name: string }[];
}

/** A kind of run that can be chosen beside the board. */
export type Wanted = 'fill' | 'plan' | 'repair' | 'improve';
