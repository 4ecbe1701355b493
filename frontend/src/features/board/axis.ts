// Time across the board: one stretch for each day, from the first hour somebody works to the last. Nights are left out.

import type { Lane } from './model';

export const SNAP_SECONDS = 5 * 60;
const HOUR = 3600;

/** The hours of one day that are shown. */
export interface Segment {
  day: string;
  start: number;
  end: number;
  left: number;
  width: number;
}

/** The stretch of time the board shows, and how it maps to pixels. */
export interface Axis {
  segments: Segment[];
  pixelsPerHour: number;
  start: number;
  end: number;
  width: number;
}

/** A column's width on screen when its length is chosen; nothing chosen: the days fill the screen. */
const COLUMN_PIXELS = 56;
export const COLUMNS = [15, 30, 60, 120, 240] as const;
export const columnWords = (minutes: number) => (minutes < 60 ? `${minutes} minutes` : `${minutes / 60} h`);
export type Column = (typeof COLUMNS)[number];

interface ShownDay {
  day: string;
  start: number;
  end: number;
}

/** From a little before the first shift or visit of any day to a little after the last, on whole hours. */
export function axisOf(days: ShownDay[], lanes: Lane[], width: number, column: Column | null): Axis {
  const [from, to] = hoursOf(days, lanes);
  const hours = (to - from) / HOUR;
  const pixelsPerHour =
    column === null ? Math.max(6, width / (hours * days.length)) : (COLUMN_PIXELS * 60) / column;
  const each = hours * pixelsPerHour;
  const segments = days.map((row, index) => ({
    day: row.day,
    start: row.start + from,
    end: row.start + to,
    left: index * each,
    width: each,
  }));
  return asBefore({
    segments,
    pixelsPerHour,
    start: segments[0]?.start ?? 0,
    end: segments.at(-1)?.end ?? 0,
    width: each * days.length,
  });
}

let before: Axis | null = null;

/** The very axis of before while nothing about it is new: whatever is drawn on it need not be drawn anew. */
function asBefore(axis: Axis): Axis {
  if (before && JSON.stringify(before) === JSON.stringify(axis)) return before;
  before = axis;
  return axis;
}

/** Seconds after midnight between which something happens on any of the days. */
function hoursOf(days: ShownDay[], lanes: Lane[]): [number, number] {
  let [first, last] = [Infinity, -Infinity];
  for (const lane of lanes)
    for (const row of lane.days) {
      const { stretches } = row.timetable;
      const starts = [row.shift?.start, stretches[0]?.start].filter((value) => value !== undefined);
      const ends = [row.shift?.end, stretches.at(-1)?.end].filter((value) => value !== undefined);
      if (starts.length) first = Math.min(first, Math.min(...starts) - row.start);
      if (ends.length) last = Math.max(last, Math.max(...ends) - row.start);
    }
  if (first > last) return [7 * HOUR, 17.5 * HOUR];
  const whole = (seconds: number) => Math.floor(seconds / HOUR) * HOUR;
  const longest = Math.max(...days.map((row) => row.end - row.start), last);
  return [Math.max(0, whole(first)), Math.min(longest, whole(last - 1) + HOUR + HOUR / 2)];
}

/** Moments of the night lie on the edge of their day. */
export function xOf(axis: Axis, moment: number): number {
  let found = axis.segments[0];
  if (!found) return 0;
  for (const segment of axis.segments) {
    if (moment < segment.start) break;
    found = segment;
  }
  const within = Math.min(Math.max(moment, found.start), found.end) - found.start;
  return found.left + (within / HOUR) * axis.pixelsPerHour;
}

/** The moment under a pixel, snapped. */
export function momentAt(axis: Axis, x: number): number {
  const segment = segmentAt(axis, x);
  if (!segment) return axis.start;
  const moment = segment.start + ((x - segment.left) / axis.pixelsPerHour) * HOUR;
  return Math.round(moment / SNAP_SECONDS) * SNAP_SECONDS;
}

function segmentAt(axis: Axis, x: number): Segment | undefined {
  const index = Math.floor(x / (axis.segments[0]?.width ?? 1));
  return axis.segments[Math.min(axis.segments.length - 1, Math.max(0, index))];
}

export const segmentOf = (axis: Axis, moment: number) =>
  axis.segments.find((segment) => moment >= segment.start && moment <= segment.end);

/** Whole hours to be lettered: as many as have room. */
export function lettered(axis: Axis): number[] {
  const stride = [1, 2, 3, 6, 12].find((hours) => hours * axis.pixelsPerHour >= 44) ?? 24;
  const found = [];
  for (const segment of axis.segments)
    for (let moment = segment.start; moment < segment.end; moment += stride * HOUR) found.push(moment);
  return found;
}

/** Where lines are drawn: at each column chosen, or each lettered hour. */
export function lined(axis: Axis, column: Column | null): number[] {
  if (column === null) return lettered(axis);
  const found = [];
  for (const segment of axis.segments)
    for (let moment = segment.start; moment < segment.end; moment += column * 60) found.push(moment);
  return found;
}
