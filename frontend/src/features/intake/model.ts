import { z } from 'zod';
import type { SchemaJobTypeOut, SchemaRequestIn } from '@/api/types';
import { moment, parseLength, parseTime } from '@/shared/time';

/** Who is calling, as far as we know by now. */
export type Caller =
  | { kind: 'unknown' }
  | { kind: 'new'; typed: string }
  | { kind: 'known'; customerId: number; siteId: number | null; assetId: number | null };

export interface PickedPlace {
  lon: number;
  lat: number;
  address: string;
  area: string | null;
}

/** What is typed while the caller talks. All text: reading it is a step of its own, so nothing typed is lost. */
export const needForm = z
  .object({
    whatIsWrong: z.string().trim().min(1, 'Say what is wrong or what is to be done.').max(4000),
    jobTypeId: z.number().nullable(),
    assetId: z.number().nullable(),
    contactName: z.string().max(120),
    contactPhone: z.string().max(40),
    source: z.enum(['phone', 'e-mail', 'web', 'walk-in', 'contract']),
    length: z
      .string()
      .refine((text) => !text.trim() || parseLength(text) !== null, 'Minutes, or hours like 1:30.'),
    priority: z.number().int().min(1).max(5),
    needs: z.record(z.string(), z.number().int().min(1).max(5)),
    promiseDay: z.string(),
    promiseFrom: z.string(),
    promiseTo: z.string(),
  })
  .superRefine((form, context) => {
    if (!wantsPromise(form)) return;
    const from = parseTime(form.promiseFrom);
    const until = parseTime(form.promiseTo, from ?? undefined);
    if (!form.promiseDay || from === null || until === null) {
      context.addIssue({
        code: 'custom',
        path: ['promiseFrom'],
        message: 'A day and two times, like 8 and 1030 or +120.',
      });
    } else if (until <= from) {
      context.addIssue({
        code: 'custom',
        path: ['promiseFrom'],
        message: 'The promise must end after it begins.',
      });
    }
  });
export type NeedForm = z.infer<typeof needForm>;

export const EMPTY: NeedForm = {
  whatIsWrong: '',
  jobTypeId: null,
  assetId: null,
  contactName: '',
  contactPhone: '',
  source: 'phone',
  length: '',
  priority: 3,
  needs: {},
  promiseDay: '',
  promiseFrom: '',
  promiseTo: '',
};

function wantsPromise(form: Pick<NeedForm, 'promiseDay' | 'promiseFrom' | 'promiseTo'>) {
  return Boolean(form.promiseFrom.trim() || form.promiseTo.trim());
}

/** What a job type fills in. */
export function filledFrom(job: SchemaJobTypeOut): Pick<NeedForm, 'length' | 'priority' | 'needs'> {
  return {
    length: job.duration_seconds === null ? '' : String(job.duration_seconds / 60),
    priority: job.priority,
    needs: job.needs,
  };
}

export function toRequest(form: NeedForm, siteId: number): SchemaRequestIn {
  const from = parseTime(form.promiseFrom);
  const until = parseTime(form.promiseTo, from ?? undefined);
  const promised = wantsPromise(form) && from !== null && until !== null;
  return {
    site_id: siteId,
    what_is_wrong: form.whatIsWrong,
    job_type_id: form.jobTypeId,
    asset_id: form.assetId,
    priority: form.priority,
    duration_seconds: form.length.trim() ? parseLength(form.length) : null,
    needs: form.needs,
    promise: promised ? { start: moment(form.promiseDay, from), end: moment(form.promiseDay, until) } : null,
    contact_name: form.contactName,
    contact_phone: form.contactPhone,
    source: form.source,
  };
}
