import { useEffect, useRef } from 'react';
import { FormProvider } from 'react-hook-form';
import { Problem, sentenceOf } from '@/api/client';
import type { SchemaRequestDetailOut, SchemaSiteOut } from '@/api/types';
import { Button } from '@/design/Button';
import { SelectField, TextArea } from '@/design/Field';
import { FormDay, FormSelect, FormText } from '@/design/form';
import { Notice } from '@/design/Notice';
import { shownOffers, UrgentFirst } from '@/features/appointments';
import { useSetting, useTags } from '@/features/company';
import { useCustomer } from '@/features/customers';
import { may, SkillsField, useSession, useSkillName } from '@/features/people';
import { DetailsFields } from './DetailsFields';
import { useOrderQuestions } from './queries';
import { PRIORITIES, type Caller } from './model';
import { useNeed, type Need } from './useNeed';
import { WhenWeCome } from './WhenWeCome';

interface Props {
  caller: Caller;
  site: SchemaSiteOut | null;
  /** A request that came in before and is worked on now. */
  request: SchemaRequestDetailOut | null;
  onSaved: () => void;
}

/** What they need, when we come: from the caller's words to a promise that will be kept. */
export function NeedFields(props: Props) {
  const { caller, site, request } = props;
  const need = useNeed(props);
  const { job, promise, failure, gone } = need;
  const session = useSession();
  const customer = useCustomer(caller.kind === 'known' ? caller.customerId : null).data;
  useKeys(need);
  return (
    <FormProvider {...need.form}>
      <form onSubmit={need.order} className="space-y-2.5" aria-label="Request">
        <Words need={need} siteId={site?.id} />
        <JobLine need={need} />
        {job?.advice && <p className="text-sm font-semibold text-copper">{job.advice}</p>}
        {promise.answer?.urgent && (
          <UrgentFirst
            urgent={promise.answer.urgent}
            busy={need.busy}
            onGive={may(session, 'plan') ? () => void need.give() : undefined}
          />
        )}
        <WhenWeCome need={need} site={site} customer={customer} />
        <WhoToAsk source={need.values.source} />
        <Details need={need} needsPo={Boolean(customer?.needs_po_number)} />
        <Skills need={need} />
        {failure && !gone && <Notice tone="bad">{sentenceOf(failure)}</Notice>}
        <SaveBar need={need} isRequest={request !== null} />
      </form>
    </FormProvider>
  );
}

/** Alt and a digit takes a window, Ctrl and Enter makes the order. */
function useKeys({ promise, ready, order }: Need) {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const digit = /^Digit([1-9])$/.exec(event.code)?.[1];
      const offers = shownOffers(promise.answer, promise.byTime, promise.more);
      const offer = event.altKey && digit ? offers[Number(digit) - 1] : undefined;
      if (offer) promise.setChosen({ start: offer.start, end: offer.end });
      else if ((event.ctrlKey || event.metaKey) && event.key === 'Enter' && ready) void order();
      else return;
      event.preventDefault();
    };
    document.addEventListener('keydown', onKey);
    return () => document.removeEventListener('keydown', onKey);
  });
}

function Words({ need, siteId }: { need: Need; siteId: number | undefined }) {
  const { register, formState } = need.form;
  const words = useRef<HTMLTextAreaElement | null>(null);
  useEffect(() => {
    // The site is settled: the next thing to say is what is wrong.
    if (siteId !== undefined) words.current?.focus();
  }, [siteId]);
  const says = register('whatIsWrong');
  return (
    <TextArea
      label="What is wrong, in the caller's words"
      rows={2}
      {...says}
      ref={(element) => {
        says.ref(element);
        words.current = element;
      }}
      error={formState.errors.whatIsWrong?.message}
    />
  );
}

function JobLine({ need }: { need: Need }) {
  const { register } = need.form;
  return (
    <div className="grid grid-cols-[1fr_6rem_9rem] gap-2">
      <SelectField
        label="Job type"
        value={need.values.jobTypeId ?? ''}
        onChange={(event) => need.chooseJob(event.target.value ? Number(event.target.value) : null)}
      >
        <option value="">none: describe it only</option>
        {need.jobs.map((row) => (
          <option key={row.id} value={row.id}>
            {row.name}
          </option>
        ))}
      </SelectField>
      <FormText name="length" label="Length" placeholder="45 or 1:30" />
      <SelectField label="Priority" {...register('priority', { valueAsNumber: true })}>
        {PRIORITIES.map((words, index) => (
          <option key={words} value={index + 1}>
            {index + 1}, {words}
          </option>
        ))}
      </SelectField>
    </div>
  );
}

function WhoToAsk({ source }: { source: string }) {
  const sources = useSetting<string[]>('sources', ['phone']);
  return (
    <div className="grid grid-cols-4 gap-2">
      <FormDay name="due" label="To be done by" />
      <FormText name="contactName" label="Who to ask for" />
      <FormText name="contactPhone" label="Their phone" type="tel" />
      <FormSelect name="source" label="Heard of us by">
        {[...new Set([source, ...sources])].map((row) => (
          <option key={row}>{row}</option>
        ))}
      </FormSelect>
    </div>
  );
}

function Details({ need, needsPo }: { need: Need; needsPo: boolean }) {
  const tags = useTags().data ?? [];
  const questions = useOrderQuestions(need.job);
  const { failure } = need;
  return (
    <DetailsFields
      details={need.details}
      onChange={need.setDetails}
      questions={questions}
      needsPo={needsPo}
      tags={tags}
      open={failure instanceof Problem && failure.field.startsWith('extra')}
    />
  );
}

function Skills({ need }: { need: Need }) {
  const skillName = useSkillName();
  const { needs } = need.values;
  const named = Object.entries(needs).map(([skill, level]) => `${skillName(skill)} ${level}`);
  return (
    <details className="text-sm">
      <summary className="cursor-pointer py-0.5">Skills: {named.join(', ') || 'none'}</summary>
      <SkillsField needs={needs} onChange={(changed) => need.form.setValue('needs', changed)} />
    </details>
  );
}

function SaveBar({ need, isRequest }: { need: Need; isRequest: boolean }) {
  const { ready, busy, promise } = need;
  return (
    <div className="sticky bottom-0 flex items-center gap-2 border-t border-hairline bg-paper py-2">
      <Button type="submit" rank="main" disabled={!ready || busy}>
        {promise.window ? 'Make work order and promise it' : 'Make work order'}
      </Button>
      <kbd className="text-xs text-ink-soft">Ctrl+Enter</kbd>
      {!isRequest && (
        <Button disabled={!ready || busy} onClick={() => void need.keep()}>
          Save as request
        </Button>
      )}
      {!ready && <span className="text-sm text-ink-soft">Choose the customer and the site first.</span>}
    </div>
  );
}
