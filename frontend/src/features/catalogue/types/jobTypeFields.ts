// What is typed of a job type, and what it is kept as.

import { z } from 'zod';
import type { SchemaJobTypeIn, SchemaJobTypeOut, SchemaPartIn, SchemaWorkStepIn } from '@/api/types';
import type { Question } from '@/shared/questions';
import { isWhole, setIn, typedLine, type TypedLine } from '@/features/pricing';
import { linesOf } from '@/shared/counted';
import { parseLength } from '@/shared/time';

const whole = z
  .string()
  .trim()
  .regex(/^\d*$/, 'A whole number')
  .transform((text) => (text === '' ? null : Number(text)));

export const jobTypeSchema = (currency: string) =>
  z.object({
    code: z.string(),
    name: z.string(),
    duration_seconds: z
      .string()
      .refine((text) => !text.trim() || parseLength(text) !== null, 'Minutes, or 1:30')
      .transform((text) => (text.trim() ? parseLength(text) : null)),
    priority: z.coerce.number<string | number>(),
    needs: z.record(z.string(), z.number()),
    certificates: z.array(z.string()),
    crew: whole.transform((crew) => crew ?? 1),
    advice: z.string(),
    tasks: z.string().transform(linesOf),
    /** As typed; null: nothing was. */
    parts: z.string().nullable(),
    lines: z
      .array(z.custom<TypedLine>())
      .refine((lines) => isWhole({ lines, discounts: [] }, currency), 'One of the lines cannot be counted'),
    worth: whole,
    wanted_per_hour: whole,
    terms: z.string(),
    respond_minutes: whole,
    resolve_minutes: whole,
    promise_minutes: whole,
    questions: z.array(z.custom<Question>()),
    fields: z.array(z.custom<Question>()),
    visits: z.array(z.custom<SchemaPartIn>()),
    steps: z.array(z.custom<SchemaWorkStepIn>()),
    offers: z.record(z.string(), z.string()).transform(offersFrom),
    retired: z.boolean(),
  });

/** Typed settings as they are kept: yes and no, or numbers; what is empty is as the company has it. */
function offersFrom(typed: Record<string, string>): Record<string, boolean | number> {
  const said = Object.entries(typed).filter(([, value]) => value.trim() !== '');
  const read = (value: string) => (value === 'true' ? true : value === 'false' ? false : Number(value));
  return Object.fromEntries(said.map(([key, value]) => [key, read(value)]));
}

const number = (value: number | null | undefined) => (value ? String(value) : '');

export const typedFrom = (
  job: SchemaJobTypeOut | null,
  currency: string,
): z.input<ReturnType<typeof jobTypeSchema>> => ({
  code: job?.code ?? '',
  name: job?.name ?? '',
  duration_seconds: job?.duration_seconds ? String(job.duration_seconds / 60) : '',
  priority: job?.priority ?? 3,
  needs: job?.needs ?? {},
  certificates: job?.certificates ?? [],
  crew: String(job?.crew ?? 1),
  advice: job?.advice ?? '',
  tasks: (job?.tasks ?? []).join('\n'),
  parts: null,
  lines: (job?.lines ?? []).map((line) => typedLine(line, currency)),
  worth: number(job?.worth),
  wanted_per_hour: number(job?.wanted_per_hour),
  terms: job?.terms ?? '',
  respond_minutes: number(job?.respond_minutes),
  resolve_minutes: number(job?.resolve_minutes),
  promise_minutes: number(job?.promise_minutes),
  questions: (job?.questions ?? []) as unknown as Question[],
  fields: (job?.fields ?? []) as unknown as Question[],
  visits: (job?.visits ?? []) as unknown as SchemaPartIn[],
  steps: (job?.steps ?? []) as unknown as SchemaWorkStepIn[],
  offers: Object.fromEntries(Object.entries(job?.offers ?? {}).map(([key, value]) => [key, String(value)])),
  retired: job?.retired ?? false,
});

/** As the server takes it. Its parts are typed as names and get their keys when it is kept. */
export const bodyOf = (
  read: z.output<ReturnType<typeof jobTypeSchema>>,
  job: SchemaJobTypeOut | null,
  currency: string,
): SchemaJobTypeIn => ({
  ...read,
  lines: setIn({ lines: read.lines, discounts: [] }, currency).lines,
  questions: read.questions as never,
  fields: read.fields as never,
  parts: job?.parts ?? {},
});
