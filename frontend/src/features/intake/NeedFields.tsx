import { zodResolver } from '@hookform/resolvers/zod';
import { useNavigate } from '@tanstack/react-router';
import { useEffect, useRef, useState } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { toast } from 'sonner';
import { Problem, sentenceOf } from '@/api/client';
import type { SchemaRequestDetailOut, SchemaSiteOut } from '@/api/types';
import { DayField } from '@/design/DayField';
import { Button } from '@/design/Button';
import { SelectField, TextArea, TextField } from '@/design/Field';
import { focusFirstWrong } from '@/design/FormError';
import { Notice } from '@/design/Notice';
import { useJobTypes } from '@/features/catalogue';
import { useRecordFields, useSetting } from '@/features/company';
import { useCustomer } from '@/features/customers';
import { may, SkillsField, useSession, useSkillName } from '@/features/people';
import type { Question } from '@/shared/questions';
import { parseLength, window_ } from '@/shared/time';
import { useBook, useTakeRequest } from './commands';
import {
  ANY_TIME,
  OfferList,
  shownOffers,
  UrgentFirst,
  useOffers,
  type Window,
} from '@/features/appointments';
import { DetailsFields } from './DetailsFields';
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
import { OtherTime, StandbyFields, TellCustomer } from './PromiseFields';

interface Props {
  caller: Caller;
  site: SchemaSiteOut | null;
  /** A request that came in before and is worked on now. */
  request: SchemaRequestDetailOut | null;
  onSaved: () => void;
}

/** What they need, when we come: from the caller's words to a promise that will be kept. */
export function NeedFields({ caller, site, request, onSaved }: Props) {
  const [began] = useState(() => startOf(request));
  const typedBefore = useStored('need', began);
  const form = useForm<NeedForm>({ resolver: zodResolver(needForm), defaultValues: typedBefore });
  const { register, setValue, handleSubmit, formState, control } = form;
  const { errors } = formState;
  const values = useWatch({ control }) as NeedForm;
  useKept('need', values, began);
  const session = useSession();
  const jobs = useJobTypes();
  const job = jobs.data?.find((row) => row.id === values.jobTypeId);
  const customer = useCustomer(caller.kind === 'known' ? caller.customerId : null);
  const sources = useSetting<string[]>('sources', ['phone']);
  const tags = useSetting<string[]>('tags', []);
  const skillName = useSkillName();
  const own = useRecordFields();
  const [wish, setWish] = useDraft('wish', ANY_TIME);
  const [byTime, setByTime] = useState(false);
  const [more, setMore] = useState(false);
  const [chosen, setChosen] = useDraft<Window | null>('window', null);
  const [assign, setAssign] = useState(false);
  const [tell, setTell] = useState(true);
  const [standby, setStandby] = useDraft('standby', NO_STANDBY);
  const [details, setDetails] = useDraft('details', () => detailsOf(request));
  const take = useTakeRequest();
  const book = useBook();
  // The same order however often it is sent, as when the connection broke before the answer came.
  const [once, setOnce] = useState(() => crypto.randomUUID());
  const navigate = useNavigate();
  const words = useRef<HTMLTextAreaElement | null>(null);
  const ready = caller.kind === 'known' && site !== null;
  const siteId = site?.id;
  useEffect(() => {
    // The site is settled: the next thing to say is what is wrong.
    if (siteId !== undefined) words.current?.focus();
  }, [siteId]);

  const askable = ready && (job !== undefined || parseLength(values.length) !== null);
  const offers = useOffers(askable ? toOffers(values, site.id, wish, request?.id ?? null) : null);
  const answer = askable ? offers.data : undefined;
  const typed = typedWindow(values);
  const window = typed ?? chosen;
  const questions = [
    ...((job?.fields ?? []) as unknown as Question[]),
    ...((own.data?.find((row) => row.record === 'order')?.questions ?? []) as unknown as Question[]),
  ];

  const save = async (filled: NeedForm, andOrder: boolean, then?: 'give') => {
    if (caller.kind !== 'known' || site === null) return;
    const body = toRequest(filled, site.id, caller.assetId);
    let given: number | null = null;
    if (!andOrder) {
      const made = await take.mutateAsync({ ...body, details: toDetails(details) });
      toast.success(`${made.number} kept. It is among the waiting requests.`);
    } else {
      const ordered = {
        ...body,
        details: toDetails(details),
        // Whoever goes at once is chosen beside the board: no window is promised before.
        window: then === 'give' ? null : window,
        assign,
        tell,
        standby: toStandby(standby),
        request_id: request?.id ?? null,
        version: request?.version ?? null,
      };
      const made = await book.mutateAsync({ body: ordered, key: once });
      setOnce(crypto.randomUUID());
      if (then === 'give') given = made.visit_id;
      const promised = made.promise ? `promised ${window_(made.promise)}` : 'is in the backlog';
      const who = made.technician ? `, ${made.technician} goes` : '';
      toast.success(`${made.order} ${promised}${who}`, {
        action: {
          label: 'Show on the board',
          onClick: () => void navigate({ to: '/board', search: { visit: made.visit_id } }),
        },
      });
    }
    onSaved();
    if (given !== null) void navigate({ to: '/board', search: { visit: given } });
  };
  const submit = (andOrder: boolean, then?: 'give') =>
    handleSubmit(
      (filled) => save(filled, andOrder, then).catch(() => {}),
      () => focusFirstWrong(),
    );

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const digit = /^Digit([1-9])$/.exec(event.code)?.[1];
      const offer = event.altKey && digit ? shownOffers(answer, byTime, more)[Number(digit) - 1] : undefined;
      if (offer) setChosen({ start: offer.start, end: offer.end });
      else if ((event.ctrlKey || event.metaKey) && event.key === 'Enter' && ready) void submit(true)();
      else return;
      event.preventDefault();
    };
    document.addEventListener('keydown', onKey);
    return () => document.removeEventListener('keydown', onKey);
  });

  const chooseJob = (id: number | null) => {
    setValue('jobTypeId', id);
    setChosen(null);
    const found = jobs.data?.find((row) => row.id === id);
    if (!found) return;
    const filled = filledFrom(found);
    setValue('length', filled.length, { shouldValidate: true });
    setValue('priority', filled.priority);
    setValue('needs', filled.needs);
  };

  const failure = take.error ?? book.error;
  const gone = failure instanceof Problem && failure.code === 'window_gone';
  const says = register('whatIsWrong');
  return (
    <form onSubmit={submit(true)} className="space-y-2.5" aria-label="Request">
      <TextArea
        label="What is wrong, in the caller's words"
        rows={2}
        {...says}
        ref={(element) => {
          says.ref(element);
          words.current = element;
        }}
        error={errors.whatIsWrong?.message}
      />
      <div className="grid grid-cols-[1fr_6rem_9rem] gap-2">
        <SelectField
          label="Job type"
          value={values.jobTypeId ?? ''}
          onChange={(event) => chooseJob(event.target.value ? Number(event.target.value) : null)}
        >
          <option value="">none: describe it only</option>
          {(jobs.data ?? []).map((row) => (
            <option key={row.id} value={row.id}>
              {row.name}
            </option>
          ))}
        </SelectField>
        <TextField
          label="Length"
          placeholder="45 or 1:30"
          {...register('length')}
          error={errors.length?.message}
        />
        <SelectField label="Priority" {...register('priority', { valueAsNumber: true })}>
          <option value={1}>1, drop everything</option>
          <option value={2}>2, today</option>
          <option value={3}>3, soon</option>
          <option value={4}>4, as planned</option>
          <option value={5}>5, can wait</option>
        </SelectField>
      </div>
      {job?.advice && <p className="text-sm font-semibold text-copper">{job.advice}</p>}
      {answer?.urgent && (
        <UrgentFirst
          urgent={answer.urgent}
          busy={book.isPending}
          onGive={may(session, 'plan') ? () => void submit(true, 'give')() : undefined}
        />
      )}
      <section aria-label="When we come" className="space-y-1 rounded-sm bg-wash p-2">
        <h3 className="text-xs font-semibold text-ink-soft">
          When we come <span className="font-normal">· Alt+1 to Alt+9 takes a window</span>
        </h3>
        {askable ? (
          <OfferList
            answer={answer}
            asking={offers.isFetching}
            error={offers.error}
            wish={wish}
            onWish={setWish}
            byTime={byTime}
            onByTime={setByTime}
            more={more}
            onMore={() => setMore(true)}
            taken={chosen}
            onTake={setChosen}
          />
        ) : (
          <p className="text-sm text-ink-soft">
            {ready
              ? 'Choose a job type or give a length: then the windows that can be kept are listed here.'
              : 'First the customer and the site.'}
          </p>
        )}
        {site && site.area === null && (
          <p className="mt-1 text-sm font-semibold text-bad">
            This site lies outside every area: better promise nothing yet.
          </p>
        )}
        <OtherTime
          register={register}
          day={values.promiseDay}
          onDay={(day) => setValue('promiseDay', day)}
          error={errors.promiseFrom?.message}
        />
        {gone && <Notice tone="bad">{sentenceOf(failure)}</Notice>}
        {window && may(session, 'plan') && (
          <label className="flex items-center gap-1.5 text-sm">
            <input type="checkbox" checked={assign} onChange={(event) => setAssign(event.target.checked)} />
            Give it to the technician who makes it possible at once
          </label>
        )}
        <StandbyFields standby={standby} onChange={setStandby} />
        <TellCustomer
          tell={tell}
          onTell={setTell}
          window={window}
          site={site}
          customer={customer.data}
          job={job?.name ?? ''}
        />
      </section>
      <div className="grid grid-cols-4 gap-2">
        <DayField label="To be done by" value={values.due} onChange={(day) => setValue('due', day)} />
        <TextField label="Who to ask for" {...register('contactName')} />
        <TextField label="Their phone" type="tel" {...register('contactPhone')} />
        <SelectField label="Heard of us by" {...register('source')}>
          {[...new Set([values.source, ...sources])].map((source) => (
            <option key={source}>{source}</option>
          ))}
        </SelectField>
      </div>
      <DetailsFields
        details={details}
        onChange={setDetails}
        questions={questions}
        needsPo={Boolean(customer.data?.needs_po_number)}
        tags={tags}
        open={failure instanceof Problem && failure.field.startsWith('extra')}
      />
      <details className="text-sm">
        <summary className="cursor-pointer py-0.5">
          Skills:{' '}
          {Object.entries(values.needs)
            .map(([skill, level]) => `${skillName(skill)} ${level}`)
            .join(', ') || 'none'}
        </summary>
        <SkillsField needs={values.needs} onChange={(changed) => setValue('needs', changed)} />
      </details>
      {failure && !gone && <Notice tone="bad">{sentenceOf(failure)}</Notice>}
      <div className="sticky bottom-0 flex items-center gap-2 border-t border-hairline bg-paper py-2">
        <Button type="submit" rank="main" disabled={!ready || take.isPending || book.isPending}>
          {window ? 'Make work order and promise it' : 'Make work order'}
        </Button>
        <kbd className="text-xs text-ink-soft">Ctrl+Enter</kbd>
        {!request && (
          <Button disabled={!ready || take.isPending} onClick={() => void submit(false)()}>
            Keep as request
          </Button>
        )}
        {!ready && <span className="text-sm text-ink-soft">Choose the customer and the site first.</span>}
      </div>
    </form>
  );
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
