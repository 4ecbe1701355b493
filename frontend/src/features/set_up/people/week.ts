// Weeks as they are edited: of each week in turn a row for every weekday, with or without a shift.

import type { SchemaShiftIn, SchemaTechnicianRecordOut } from '@/api/types';
import { parseTime, wallText } from '@/shared/time';

export const WEEKDAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'] as const;
/** So many weeks follow each other in turn at most. */
export const MOST_WEEKS = 8;

/** Minutes of the day; null: not there. A start without an end is a day on call only. */
export interface DayRow {
  start: number | null;
  end: number | null;
  gapStart: number | null;
  gapEnd: number | null;
  onCall: number | null;
}

export const DAY_OFF: DayRow = { start: null, end: null, gapStart: null, gapEnd: null, onCall: null };

/** The break and the overtime that are agreed, for all days alike. */
export interface Agreed {
  rest_minutes: number;
  rest_earliest: number | null;
  rest_latest: number | null;
  overtime_minutes: number;
}

/** Minutes of a time as the server writes it, like 08:30:00. */
const minutes = (text: string | null | undefined) => (text ? parseTime(text.slice(0, 5)) : null);
const text = (value: number | null) => (value === null ? null : wallText(value));

type Weeks = SchemaTechnicianRecordOut['weeks'][number];

/** The weeks that hold on a day; none do: undefined. */
export const weeksOn = (person: SchemaTechnicianRecordOut, day: string): Weeks | undefined =>
  person.weeks
    .filter((week) => week.valid_from <= day && (!week.valid_until || day < week.valid_until))
    .at(-1);

/** The day from which there are no hours any more; null: they go on. */
export function endOf({ weeks }: SchemaTechnicianRecordOut): string | null {
  if (weeks.some((week) => week.valid_until === null)) return null;
  return (
    weeks
      .map((week) => week.valid_until!)
      .sort()
      .at(-1) ?? null
  );
}

/** The weeks in turn, the one that runs now first: so it is the first of those that are saved from today on. */
export function rowsOf(weeks: Pick<Weeks, 'weeks' | 'current' | 'shifts'> | undefined): DayRow[][] {
  const count = weeks?.weeks ?? 1;
  return Array.from({ length: count }, (_, place) => {
    const week = ((weeks?.current ?? 0) + place) % count;
    return WEEKDAYS.map((_name, weekday) =>
      rowOf(weeks?.shifts.find((shift) => shift.weekday === weekday && (shift.week ?? 0) === week)),
    );
  });
}

function rowOf(shift: SchemaShiftIn | undefined): DayRow {
  if (!shift) return DAY_OFF;
  const onCallOnly = Boolean(shift.on_call_until) && shift.start === shift.end;
  return {
    start: minutes(shift.start),
    end: onCallOnly ? null : minutes(shift.end),
    gapStart: minutes(shift.gap_start),
    gapEnd: minutes(shift.gap_end),
    onCall: minutes(shift.on_call_until),
  };
}

export function agreedOf(shifts: SchemaShiftIn[]): Agreed {
  const worked = shifts.find((shift) => shift.start !== shift.end || !shift.on_call_until);
  return {
    rest_minutes: worked?.rest_minutes ?? 30,
    rest_earliest: minutes(worked?.rest_earliest) ?? 11 * 60,
    rest_latest: minutes(worked?.rest_latest) ?? 14 * 60,
    overtime_minutes: worked?.overtime_minutes ?? 0,
  };
}

/** What is sent: days with a start, and an end or time on call. */
export function shiftsOf(weeks: DayRow[][], agreed: Agreed): SchemaShiftIn[] {
  return weeks.flatMap((rows, week) => rows.flatMap((row, weekday) => shiftOf(row, week, weekday, agreed)));
}

function shiftOf(row: DayRow, week: number, weekday: number, agreed: Agreed): SchemaShiftIn[] {
  const { start, end, onCall } = row;
  if (start === null || (end === null && onCall === null)) return [];
  const rests = agreed.rest_minutes > 0 && end !== null;
  return [
    {
      weekday,
      week,
      start: text(start)!,
      end: text(end ?? start)!,
      gap_start: text(row.gapStart),
      gap_end: text(row.gapEnd),
      on_call_until: text(onCall),
      rest_minutes: rests ? agreed.rest_minutes : 0,
      rest_earliest: rests ? text(agreed.rest_earliest) : null,
      rest_latest: rests ? text(agreed.rest_latest) : null,
      overtime_minutes: end === null ? 0 : agreed.overtime_minutes,
    },
  ];
}

/** What is not said by the times alone; a gap of which one end is missing is no gap yet. */
export function wordsOf({ start, end, gapStart, gapEnd, onCall }: DayRow): string {
  if (start === null) return end === null && onCall === null ? 'no shift' : 'from when?';
  if (end === null) return onCall === null ? 'until when?' : 'on call only';
  if ((gapStart === null) !== (gapEnd === null)) return 'gap: from and to';
  return end <= start ? 'until the next day' : '';
}

/** A time is missing: such a week is not sent. */
export const isUnfinished = (weeks: DayRow[][]) =>
  weeks.some((rows) =>
    rows.some((row) => /\?|from and to/.test(wordsOf(row)) || (row.gapStart !== null && row.end === null)),
  );
