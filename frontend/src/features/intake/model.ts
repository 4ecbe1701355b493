import { z } from 'zod';
import type {
  SchemaBookIn,
  SchemaJobTypeOut,
  SchemaOffersIn,
  SchemaRequestDetailOut,
  SchemaRequestIn,
} from '@/api/types';
import { wishIn, type Window, type Wish } from '@/features/appointments';
import { moment, parseLength, parseTime } from '@/shared/time';

/** Who is calling, as far as we know by now. */
export type Caller =
  | { kind: 'unknown' }
  | { kind: 'new'; typed: string }
  | { kind: 'known'; customerId: number; siteId: number | null; assetId: number | null };

/** What the priorities mean, from 1 on. */
export const PRIORITIES = ['drop everything', 'today', 'soon', 'as planned', 'can wait'];

/** What is typed while the caller talks. All text: reading it is a step of its own, so nothing typed is lost. */
export const needForm = z
  .object({
    whatIsWrong: z.string().trim().min(1, 'Say what is wrong or what is to be done.').max(8000),
    jobTypeId: z.number().nullable(),
    contactName: z.string().max(120),
    contactPhone: z.string().max(40),
    source: z.string(),
    length: z
      .string()
      .refine((text) => !text.trim() || parseLength(text) !== null, 'Minutes, or hours like 1:30.'),
    priority: z.number().int().min(1).max(5),
    needs: z.record(z.string(), z.number().int().min(1).max(5)),
    due: z.string(),
    promiseDay: z.string(),
    promiseFrom: z.string(),
    promiseTo: z.string(),
  })
  .superRefine((form, context) => {
    if (!typesPromise(form)) return;
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
  contactName: '',
  contactPhone: '',
  source: 'phone',
  length: '',
  priority: 3,
  needs: {},
  due: '',
  promiseDay: '',
  promiseFrom: '',
  promiseTo: '',
};

type Typed = Pick<NeedForm, 'promiseDay' | 'promiseFrom' | 'promiseTo'>;

function typesPromise(form: Typed) {
  return Boolean(form.promiseFrom.trim() || form.promiseTo.trim());
}

/** A time typed by hand, where one was typed whole. */
export function typedWindow(form: Typed): Window | null {
  const from = parseTime(form.promiseFrom);
  const until = parseTime(form.promiseTo, from ?? undefined);
  if (!typesPromise(form) || !form.promiseDay || from === null || until === null) return null;
  return { start: moment(form.promiseDay, from), end: moment(form.promiseDay, until) };
}

/** What a job type fills in. */
export function filledFrom(job: SchemaJobTypeOut): Pick<NeedForm, 'length' | 'priority' | 'needs'> {
  return {
    length: job.duration_seconds === null ? '' : String(job.duration_seconds / 60),
    priority: job.priority,
    needs: job.needs,
  };
}

export function toRequest(form: NeedForm, siteId: number, assetId: number | null): SchemaRequestIn {
  return {
    site_id: siteId,
    what_is_wrong: form.whatIsWrong,
    job_type_id: form.jobTypeId,
    asset_id: assetId,
    priority: form.priority,
    duration_seconds: form.length.trim() ? parseLength(form.length) : null,
    needs: form.needs,
    promise: null,
    // By the end of the office day.
    due: form.due ? moment(form.due, 17 * 60) : null,
    contact_name: form.contactName,
    contact_phone: form.contactPhone,
    source: form.source,
  };
}

/** What to ask the planner: only what changes its answer, so that typing words asks nothing. */
export function toOffers(
  form: NeedForm,
  siteId: number,
  wish: Wish,
  requestId: number | null = null,
): SchemaOffersIn {
  return {
    ...toRequest(
      { ...form, whatIsWrong: '', contactName: '', contactPhone: '', source: 'phone' },
      siteId,
      null,
    ),
    request_id: requestId,
    wish: wishIn(wish),
  };
}

/** What is known of the order besides the request. */
export interface Details {
  payer: { id: number; name: string } | null;
  payerAddress: string;
  billing: 'billable' | 'not billable' | 'contract';
  poNumber: string;
  tags: string[];
  technicianNote: string;
  invoiceText: string;
  extra: Record<string, unknown>;
}
export const NO_DETAILS: Details = {
  payer: null,
  payerAddress: '',
  billing: 'billable',
  poNumber: '',
  tags: [],
  technicianNote: '',
  invoiceText: '',
  extra: {},
};

/** What was kept of the order with a request. */
export function detailsOf(request: SchemaRequestDetailOut | null): Details {
  const kept = request?.details;
  if (!kept) return NO_DETAILS;
  return {
    payer: kept.payer_id ? { id: kept.payer_id, name: request.payer_name } : null,
    payerAddress: kept.payer_address ?? '',
    billing: kept.billing ?? 'billable',
    poNumber: kept.po_number ?? '',
    tags: kept.tags ?? [],
    technicianNote: kept.technician_note ?? '',
    invoiceText: kept.invoice_text ?? '',
    extra: kept.extra ?? {},
  };
}

export function toDetails(details: Details): SchemaBookIn['details'] {
  const { payer, payerAddress, billing, poNumber, tags, technicianNote, invoiceText, extra } = details;
  return {
    ...(payer ? { payer_id: payer.id, payer_address: '' } : {}),
    ...(payerAddress.trim() ? { payer_address: payerAddress } : {}),
    billing,
    ...(poNumber.trim() ? { po_number: poNumber } : {}),
    ...(tags.length > 0 ? { tags } : {}),
    ...(technicianNote.trim() ? { technician_note: technicianNote } : {}),
    ...(invoiceText.trim() ? { invoice_text: invoiceText } : {}),
    ...(Object.keys(extra).length > 0 ? { extra } : {}),
  };
}

/** When the customer would come forward. */
export interface Standby {
  on: boolean;
  part: '' | 'morning' | 'afternoon';
  notBefore: string;
  notice: string;
}
export const NO_STANDBY: Standby = { on: false, part: '', notBefore: '', notice: '60' };

export function toStandby(standby: Standby): SchemaBookIn['standby'] {
  if (!standby.on) return null;
  return {
    part: standby.part,
    weekdays: [],
    not_before: standby.notBefore || null,
    notice_minutes: Math.round((parseLength(standby.notice) ?? 3600) / 60),
    words: '',
  };
}
