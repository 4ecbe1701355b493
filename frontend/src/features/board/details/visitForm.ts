// A visit's own facts as they are typed, and how they are read.

import { z } from 'zod';
import type { SchemaVisitDetailOut, SchemaVisitFieldsIn } from '@/api/types';
import { fromLines } from '@/shared/counted';
import { isoDay, minutesOfDay, moment, parseLength, parseTime, timeText } from '@/shared/time';

const MOST_IN_CREW = 8;
const MOST_PARTS = 1000;
/** What is due on a day is due by then. */
const END_OF_WORK = 17 * 60;

const promise = z.object({ day: z.string(), from: z.string(), until: z.string() });
export type TypedPromise = z.infer<typeof promise>;

export const visitForm = z.object({
  duration: z
    .string()
    .trim()
    .refine((text) => text === '' || parseLength(text) !== null, 'Minutes, or 1:30')
    .transform((text) => parseLength(text)),
  priority: z.coerce.number<number>(),
  promise: promise.transform((typed, context) => {
    const read = readPromise(typed);
    if (read === undefined)
      context.addIssue({
        code: 'custom',
        message: 'A promise needs a day and two times, like 830 and 1030.',
      });
    return read ?? null;
  }),
  earliest: z.string(),
  due: z.string(),
  crew: z
    .string()
    .trim()
    .regex(/^\d+$/, `1 to ${MOST_IN_CREW}`)
    .transform(Number)
    .refine((crew) => crew >= 1 && crew <= MOST_IN_CREW, `1 to ${MOST_IN_CREW}`),
  needs: z.record(z.string(), z.number()),
  /** As typed; null: as they are. */
  takes: z
    .string()
    .nullable()
    .refine(
      (lines) => Object.values(fromLines(lines ?? '')).every((count) => count >= 1 && count <= MOST_PARTS),
      `1 to ${MOST_PARTS} of each`,
    ),
  worth: z
    .string()
    .trim()
    .regex(/^\d{0,7}$/, 'Whole money')
    .transform((text) => (text === '' ? null : Number(text))),
  notes: z.string(),
  pinned: z.boolean(),
});

export type TypedVisit = z.input<typeof visitForm>;
export type ReadVisit = z.output<typeof visitForm>;

export function typedOf(visit: SchemaVisitDetailOut): TypedVisit {
  const told = visit.promise;
  return {
    duration: visit.duration_seconds === null ? '' : String(Math.round(visit.duration_seconds / 60)),
    priority: visit.priority,
    promise: {
      day: told ? isoDay(told.start) : '',
      from: told ? timeText(minutesOfDay(told.start)) : '',
      until: told ? timeText(minutesOfDay(told.end)) : '',
    },
    earliest: visit.earliest === null ? '' : isoDay(visit.earliest),
    due: visit.due === null ? '' : isoDay(visit.due),
    crew: String(visit.crew),
    needs: visit.needs,
    takes: null,
    worth: visit.worth === null ? '' : String(visit.worth),
    notes: visit.notes,
    pinned: visit.pinned,
  };
}

/** What is sent. A moment whose day nobody touched stays to the second what it was. */
export function fieldsOf(read: ReadVisit, visit: SchemaVisitDetailOut): SchemaVisitFieldsIn {
  const seen = typedOf(visit);
  const at = (day: string, minutes: number) => (day ? moment(day, minutes) : null);
  return {
    version: visit.version,
    takes: visit.takes,
    duration_seconds: read.duration,
    priority: read.priority,
    needs: read.needs,
    worth: read.worth,
    promise: read.promise,
    earliest: read.earliest === seen.earliest ? visit.earliest : at(read.earliest, 0),
    due: read.due === seen.due ? visit.due : at(read.due, END_OF_WORK),
    notes: read.notes,
    pinned: read.pinned,
    crew: read.crew,
  };
}

/** Null: none is wanted; undefined: it cannot be read. */
function readPromise({ day, from, until }: TypedPromise) {
  if ([day, from, until].every((part) => part.trim() === '')) return null;
  const start = parseTime(from);
  const end = parseTime(until, start ?? undefined);
  if (!day || start === null || end === null) return undefined;
  return { start: moment(day, start), end: moment(day, end) };
}
