// A week as it is edited: a row for each weekday, with or without a shift.

import type { SchemaShiftIn, SchemaTechnicianRecordOut } from '@/api/types';
import { parseTime, timeText } from '@/shared/time';

export const WEEKDAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'] as const;

export interface DayRow {
  /** Minutes of the day; null: no shift. */
  start: number | null;
  end: number | null;
  /** What else the shift has, kept as it is. */
  more: Partial<SchemaShiftIn>;
}

/** The break and the overtime that are agreed, for all days alike. */
export interface Agreed {
  rest_minutes: number;
  rest_earliest: number | null;
  rest_latest: number | null;
  overtime_minutes: number;
}

/** Minutes of a time as the server writes it, like 08:30:00. */
const minutes = (text: string | null | undefined) => (text ? parseTime(text.slice(0, 5)) : null);
const text = (value: number | null) => (value === null ? null : timeText(value));

/** The week that holds on a day; none does: seven days off. */
export function weekOn(person: SchemaTechnicianRecordOut, day: string): SchemaShiftIn[] {
  const held = person.weeks.filter(
    (week) => week.valid_from <= day && (!week.valid_until || day < week.valid_until),
  );
  return held.at(-1)?.shifts ?? [];
}

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

export function rowsOf(shifts: SchemaShiftIn[]): DayRow[] {
  return WEEKDAYS.map((_, weekday) => {
    const shift = shifts.find((row) => row.weekday === weekday);
    return shift
      ? { start: minutes(shift.start), end: minutes(shift.end), more: shift }
      : { start: null, end: null, more: {} };
  });
}

export function agreedOf(shifts: SchemaShiftIn[]): Agreed {
  const first = shifts[0];
  return {
    rest_minutes: first?.rest_minutes ?? 30,
    rest_earliest: minutes(first?.rest_earliest) ?? 11 * 60,
    rest_latest: minutes(first?.rest_latest) ?? 14 * 60,
    overtime_minutes: first?.overtime_minutes ?? 0,
  };
}

/** What is sent: days with a start and an end. */
export function shiftsOf(rows: DayRow[], agreed: Agreed): SchemaShiftIn[] {
  return rows.flatMap(({ start, end, more }, weekday) => {
    if (start === null || end === null) return [];
    const rests = agreed.rest_minutes > 0;
    return [
      {
        ...more,
        weekday,
        start: text(start)!,
        end: text(end)!,
        rest_minutes: agreed.rest_minutes,
        rest_earliest: rests ? text(agreed.rest_earliest) : null,
        rest_latest: rests ? text(agreed.rest_latest) : null,
        overtime_minutes: agreed.overtime_minutes,
      },
    ];
  });
}
