import { z } from 'zod';
import type { SchemaJobTypeOut, SchemaOneOffIn } from '@/api/types';
import { setIn, type TypedSet } from '@/features/pricing';
import { moment, parseLength } from '@/shared/time';
import { toDetails, type Details } from '../model';

/** A one-off job as it is typed; the names of the fields are the server's, so that its refusals find them. */
export interface TypedJob {
  title: string;
  description: string;
  duration_seconds: string;
  crew: string;
  days: string;
  priority: string;
  needs: Record<string, number>;
  earliest: string;
  due: string;
  contact_name: string;
  contact_phone: string;
  source: string;
}

export const EMPTY_JOB: TypedJob = {
  title: '',
  description: '',
  duration_seconds: '',
  crew: '1',
  days: '1',
  priority: '3',
  needs: {},
  earliest: '',
  due: '',
  contact_name: '',
  contact_phone: '',
  source: 'phone',
};

const whole = (most: number) =>
  z.string().refine((text) => /^\d+$/.test(text.trim()) && Number(text) >= 1 && Number(text) <= most, {
    message: `1 to ${most}.`,
  });

export const jobSchema = z.object({
  title: z.string().max(160),
  description: z.string().max(8000),
  duration_seconds: z
    .string()
    .refine((text) => !text.trim() || parseLength(text) !== null, 'Minutes, or hours like 1:30 or 16h.'),
  crew: whole(8),
  days: whole(10),
  priority: z.string(),
  needs: z.record(z.string(), z.number()),
  earliest: z.string(),
  due: z.string(),
  contact_name: z.string().max(120),
  contact_phone: z.string().max(40),
  source: z.string(),
});

/** What a job type fills in. */
export const filledByJob = (job: SchemaJobTypeOut) => ({
  duration_seconds: job.duration_seconds === null ? '' : String(job.duration_seconds / 60),
  crew: String(job.crew),
  priority: String(job.priority),
  needs: job.needs,
});

export interface Said {
  siteId: number;
  assetId: number | null;
  jobTypeId: number | null;
  typed: TypedJob;
  details: Details;
  /** None: what such work costs. */
  lines: TypedSet | null;
  currency: string;
}

const FIVE_O_CLOCK = 17 * 60;

/** As the server takes it; null while something in it cannot be read. */
export function oneOffIn(said: Said): SchemaOneOffIn | null {
  const { typed, lines, currency } = said;
  if (!jobSchema.safeParse(typed).success) return null;
  return {
    site_id: said.siteId,
    asset_id: said.assetId,
    job_type_id: said.jobTypeId,
    title: typed.title.trim(),
    description: typed.description,
    contact_name: typed.contact_name,
    contact_phone: typed.contact_phone,
    source: typed.source,
    details: toDetails(said.details) ?? null,
    priority: Number(typed.priority),
    duration_seconds: typed.duration_seconds.trim() ? parseLength(typed.duration_seconds) : null,
    needs: typed.needs,
    crew: Number(typed.crew),
    days: Number(typed.days),
    earliest: typed.earliest ? moment(typed.earliest, 0) : null,
    // By the end of the office day.
    due: typed.due ? moment(typed.due, FIVE_O_CLOCK) : null,
    lines: lines ? setIn(lines, currency).lines : null,
    discounts: lines ? setIn(lines, currency).discounts : [],
  };
}

/** Only what changes what becomes of it, so that typing words asks the server nothing. */
export const askedOf = (body: SchemaOneOffIn | null): SchemaOneOffIn | null =>
  body && {
    ...body,
    description: '',
    contact_name: '',
    contact_phone: '',
    source: '',
    details: body.details?.payer_id ? { payer_id: body.details.payer_id } : null,
    lines: null,
    discounts: [],
  };

/** Hours of labour as the length of the work for so many people, as one types it. */
export function lengthFor(hours: number, crew: string): string {
  const minutes = Math.ceil((hours * 60) / Math.max(1, Number(crew) || 1) / 5) * 5;
  return `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}`;
}
