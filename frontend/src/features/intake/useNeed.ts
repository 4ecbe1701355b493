import { zodResolver } from '@hookform/resolvers/zod';
import { useNavigate } from '@tanstack/react-router';
import { useState } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { toast } from 'sonner';
import { Problem } from '@/api/client';
import type { SchemaBookedOut, SchemaRequestDetailOut, SchemaSiteOut } from '@/api/types';
import { focusFirstWrong } from '@/design/FormError';
import { ANY_TIME, useOffers, type Window } from '@/features/appointments';
import { useJobTypes } from '@/features/catalogue';
import { parseLength, window_ } from '@/shared/time';
import { useBook, useTakeRequest } from './commands';
import { useDraft, useKept, useStored } from './drafts';
import {
  detailsOf,
  EMPTY,
  filledFrom,
  needForm,
  NO_STANDBY,
  toDetails,
  toOffers,
  toRequest,
  toStandby,
  typedWindow,
  type Caller,
  type NeedForm,
} from './model';

interface Setting {
  caller: Caller;
  site: SchemaSiteOut | null;
  /** A request that came in before and is worked on now. */
  request: SchemaRequestDetailOut | null;
  onSaved: () => void;
}

/** The fields of a call, kept while they are filled in. */
function useNeedForm(request: SchemaRequestDetailOut | null) {
  const [began] = useState(() => startOf(request));
  const typedBefore = useStored('need', began);
  const form = useForm<NeedForm>({ resolver: zodResolver(needForm), defaultValues: typedBefore });
  const values = useWatch({ control: form.control }) as NeedForm;
  useKept('need', values, began);
  const jobs = useJobTypes();
  const job = jobs.data?.find((row) => row.id === values.jobTypeId);
  return { form, values, jobs: jobs.data ?? [], job };
}

/** When we come: what is asked for, what is offered, and what of it is taken. */
function usePromise(
  { values, job }: Pick<ReturnType<typeof useNeedForm>, 'values' | 'job'>,
  site: SchemaSiteOut | null,
  known: boolean,
  requestId: number | null,
) {
  const [wish, setWish] = useDraft('wish', ANY_TIME);
  const [chosen, setChosen] = useDraft<Window | null>('window', null);
  const [standby, setStandby] = useDraft('standby', NO_STANDBY);
  const [byTime, setByTime] = useState(false);
  const [more, setMore] = useState(false);
  const [assign, setAssign] = useState(false);
  const [tell, setTell] = useState(true);
  const askable = known && site !== null && (job !== undefined || parseLength(values.length) !== null);
  const offers = useOffers(askable ? toOffers(values, site.id, wish, requestId) : null);
  const window = typedWindow(values) ?? chosen;
  return {
    ...{ wish, setWish, chosen, setChosen, standby, setStandby, byTime, setByTime },
    ...{ more, setMore, assign, setAssign, tell, setTell, askable, offers, window },
    answer: askable ? offers.data : undefined,
  };
}

/** A call from the caller's words to a promise that will be kept, and how it is saved. */
export function useNeed({ caller, site, request, onSaved }: Setting) {
  const fields = useNeedForm(request);
  const { form, jobs } = fields;
  const ready = caller.kind === 'known' && site !== null;
  const promise = usePromise(fields, site, ready, request?.id ?? null);
  const [details, setDetails] = useDraft('details', () => detailsOf(request));
  const take = useTakeRequest();
  const book = useBook();
  // The same order however often it is sent, as when the connection broke before the answer came.
  const [once, setOnce] = useState(() => crypto.randomUUID());
  const navigate = useNavigate();

  const keepRequest = async (filled: NeedForm) => {
    if (caller.kind !== 'known' || site === null) return;
    const body = toRequest(filled, site.id, caller.assetId);
    const made = await take.mutateAsync({ ...body, details: toDetails(details) });
    toast.success(`${made.number} kept. It is among the waiting requests.`);
    onSaved();
  };
  /** `giving`: whoever goes at once is chosen beside the board, and no window is promised before. */
  const makeOrder = async (filled: NeedForm, giving: boolean) => {
    if (caller.kind !== 'known' || site === null) return;
    const body = {
      ...toRequest(filled, site.id, caller.assetId),
      details: toDetails(details),
      window: giving ? null : promise.window,
      assign: promise.assign,
      tell: promise.tell,
      standby: toStandby(promise.standby),
      request_id: request?.id ?? null,
      version: request?.version ?? null,
    };
    const made = await book.mutateAsync({ body, key: once });
    setOnce(crypto.randomUUID());
    const show = () => void navigate({ to: '/board', search: { visit: made.visit_id } });
    toast.success(orderedWords(made), { action: { label: 'Show on the board', onClick: show } });
    onSaved();
    if (giving) show();
  };
  // What is refused is shown by the page; what cannot be read, at its field.
  const submit = (save: (filled: NeedForm) => Promise<void>) =>
    form.handleSubmit(
      (filled) => save(filled).catch(() => {}),
      () => focusFirstWrong(),
    );

  const chooseJob = (id: number | null) => {
    promise.setChosen(null);
    fillFrom(
      form,
      id,
      jobs.find((row) => row.id === id),
    );
  };
  const failure = take.error ?? book.error;
  return {
    ...fields,
    ...{ ready, promise, details, setDetails, chooseJob, failure },
    gone: failure instanceof Problem && failure.code === 'window_gone',
    busy: take.isPending || book.isPending,
    keep: submit(keepRequest),
    order: submit((filled) => makeOrder(filled, false)),
    give: submit((filled) => makeOrder(filled, true)),
  };
}

export type Need = ReturnType<typeof useNeed>;

/** The job type that was chosen, and what it fills in. */
function fillFrom(
  form: ReturnType<typeof useNeedForm>['form'],
  id: number | null,
  job: ReturnType<typeof useNeedForm>['jobs'][number] | undefined,
) {
  form.setValue('jobTypeId', id);
  if (!job) return;
  const filled = filledFrom(job);
  form.setValue('length', filled.length, { shouldValidate: true });
  form.setValue('priority', filled.priority);
  form.setValue('needs', filled.needs);
}

function orderedWords(made: SchemaBookedOut): string {
  const promised = made.promise ? `promised ${window_(made.promise)}` : 'is in the backlog';
  return `${made.order} ${promised}${made.technician ? `, ${made.technician} goes` : ''}`;
}

function startOf(request: SchemaRequestDetailOut | null): NeedForm {
  if (!request) return EMPTY;
  return {
    ...EMPTY,
    whatIsWrong: request.what_is_wrong,
    jobTypeId: request.job_type_id,
    contactName: request.contact_name,
    contactPhone: request.contact_phone,
    source: request.source,
    length: request.duration_seconds ? String(request.duration_seconds / 60) : '',
    priority: request.priority,
    needs: request.needs,
  };
}
