import type {
  SchemaBacklogVisitOut,
  SchemaBoardOut,
  SchemaBoardVisitOut,
  SchemaLaneOut,
  SchemaTimetableOut,
  SchemaVisitOut,
} from '@/api/types';

export type Board = SchemaBoardOut;
export type Lane = SchemaLaneOut;
export type BoardVisit = SchemaBoardVisitOut;
export type BacklogVisit = SchemaBacklogVisitOut;
export type AnyVisit = SchemaVisitOut;
export type Timetable = SchemaTimetableOut;

export const SNAP_SECONDS = 5 * 60;
const HOUR = 3600;
const UNKNOWN_LENGTH = HOUR;

/** The stretch of time the board shows, and how it maps to pixels. */
export interface Axis {
  start: number;
  end: number;
  pixelsPerHour: number;
}

/** From a little before the first shift or visit to a little after the last, on whole hours. */
export function axisOf(board: Board, width: number, zoom: number): Axis {
  const moments: number[] = [];
  for (const lane of board.lanes) {
    if (lane.shift) moments.push(lane.shift.start, lane.shift.end);
    for (const stretch of lane.timetable.stretches) moments.push(stretch.start, stretch.end);
  }
  const first = moments.length ? Math.min(...moments) : board.start + 7 * HOUR;
  const last = moments.length ? Math.max(...moments) : board.start + 17 * HOUR;
  const start = Math.max(board.start, floorHour(first, board.start));
  const end = Math.min(Math.max(board.end, last), floorHour(last - 1, board.start) + HOUR + HOUR / 2);
  return { start, end, pixelsPerHour: Math.max(24, (width / ((end - start) / HOUR)) * zoom) };
}

function floorHour(moment: number, dayStart: number): number {
  return dayStart + Math.floor((moment - dayStart) / HOUR) * HOUR;
}

export const xOf = (axis: Axis, moment: number) => ((moment - axis.start) / HOUR) * axis.pixelsPerHour;
export const widthOf = (axis: Axis) => xOf(axis, axis.end);

/** The moment under a pixel, snapped. */
export function momentAt(axis: Axis, x: number): number {
  const moment = axis.start + (x / axis.pixelsPerHour) * HOUR;
  return Math.round(moment / SNAP_SECONDS) * SNAP_SECONDS;
}

export const lengthOf = (visit: AnyVisit) => visit.duration_seconds ?? UNKNOWN_LENGTH;

/** When a visit is shown: as expected by the evaluator, or as planned. */
export function shownSpan(visit: BoardVisit): { start: number; end: number } {
  const start = visit.expected_start ?? visit.start ?? 0;
  return { start, end: visit.expected_end ?? start + lengthOf(visit) };
}

export const GROUPS = [
  { key: 'nobody', title: 'Promised, nobody assigned' },
  { key: 'overdue', title: 'Overdue' },
  { key: 'no duration', title: 'No duration yet' },
  { key: 'unplaced', title: 'Not placed' },
] as const;

/** The backlog by its loudest reason; each visit once. */
export function grouped(visits: BacklogVisit[]) {
  return GROUPS.map(({ key, title }) => ({
    key,
    title,
    visits: visits.filter((visit) => GROUPS.find((group) => visit.reasons.includes(group.key))?.key === key),
  })).filter((group) => group.visits.length > 0);
}

/** Counts that a dispatcher wants at a glance. */
export function summary(board: Board) {
  return {
    visits: board.visits.length,
    unsent: board.visits.filter((visit) => visit.state === 'placed').length,
    watch: board.visits.filter((visit) => visit.lamp === 'watch').length,
    broken: board.visits.filter((visit) => visit.lamp === 'broken').length,
  };
}

/** How full a day is: driving, work and break against the shift. Null on a day off. */
export function load(lane: Lane): { share: number; driving: number } | null {
  if (!lane.shift) return null;
  const hours = lane.shift.end - lane.shift.start;
  const busy = lane.timetable.drive_seconds + lane.timetable.work_seconds;
  return { share: busy / hours, driving: busy ? lane.timetable.drive_seconds / busy : 0 };
}

/** Level for each promise bracket of a lane, so that overlapping ones don't hide each other. */
export function bracketLevels(visits: BoardVisit[]): Map<number, number> {
  const ends: number[] = [];
  const levels = new Map<number, number>();
  const promised = visits.filter((visit) => visit.promise);
  promised.sort((a, b) => a.promise!.start - b.promise!.start || a.id - b.id);
  for (const visit of promised) {
    let level = ends.findIndex((end) => end <= visit.promise!.start);
    if (level < 0) level = ends.length;
    ends[level] = visit.promise!.end;
    levels.set(visit.id, level);
  }
  return levels;
}
