import { useState, type FormEvent, type ReactNode } from 'react';
import type { SchemaJobTypeIn, SchemaJobTypeOut, SchemaPartIn } from '@/api/types';
import { Button } from '@/design/Button';
import { FormError, focusFirstWrong } from '@/design/FormError';
import { SelectField, TextArea, TextField } from '@/design/Field';
import { QuestionsEditor } from '@/features/company';
import { CertificatesField, SkillsField } from '@/features/people';
import { PartsField } from '@/features/stock';
import type { Question } from '@/shared/questions';
import { amounted, linesOf } from '@/shared/counted';
import { parseLength } from '@/shared/time';
import { useKeepJobType } from '../commands';
import { FurtherVisits } from './FurtherVisits';

const OFFERS: [string, string][] = [
  ['offers_least', 'Recommended from (points)'],
  ['near_metres', 'Near means within (m)'],
  ['weight_near', 'Weight of near work'],
  ['weight_driving', 'Weight of driving'],
  ['weight_soon', 'Weight of soonness'],
  ['weight_rare', 'Weight of rare skills'],
  ['weight_load', 'Weight of load'],
];

interface Props {
  job: SchemaJobTypeOut | null;
  canChange: boolean;
  onKept: (id: number) => void;
}

const minutes = (value: number | null | undefined) => (value ? String(value) : '');

type Typed = 'name' | 'code' | 'time' | 'crew' | 'respond' | 'resolve' | 'promise' | 'worth' | 'advice';
const WHOLE: ReadonlySet<Typed> = new Set(['crew', 'respond', 'resolve', 'promise', 'worth']);

/** Everything an order of this type gets. */
export function JobTypeForm({ job, canChange, onKept }: Props) {
  const [form, setForm] = useState({
    code: job?.code ?? '',
    name: job?.name ?? '',
    time: job?.duration_seconds ? String(job.duration_seconds / 60) : '',
    priority: job?.priority ?? 3,
    needs: job?.needs ?? {},
    certificates: job?.certificates ?? [],
    crew: String(job?.crew ?? 1),
    advice: job?.advice ?? '',
    tasks: (job?.tasks ?? []).join('\n'),
    parts: null as string | null,
    lines: (job?.lines ?? [])
      .map((line) => `${String(line.quantity)} ${String(line.description)}`)
      .join('\n'),
    worth: minutes(job?.worth),
    respond: minutes(job?.respond_minutes),
    resolve: minutes(job?.resolve_minutes),
    promise: minutes(job?.promise_minutes),
    questions: (job?.questions ?? []) as unknown as Question[],
    fields: (job?.fields ?? []) as unknown as Question[],
    visits: (job?.visits ?? []) as unknown as SchemaPartIn[],
    offers: Object.fromEntries(Object.entries(job?.offers ?? {}).map(([key, value]) => [key, String(value)])),
    retired: job?.retired ?? false,
  });
  const set = (changes: Partial<typeof form>) => setForm((old) => ({ ...old, ...changes }));
  const keep = useKeepJobType();
  const number = (text: string) => (text.trim() === '' ? null : Number(text));
  const wrong = (name: Typed) =>
    name === 'time'
      ? form.time.trim() && parseLength(form.time) === null && 'Minutes, or 1:30'
      : WHOLE.has(name) && !/^\d*$/.test(form[name].trim()) && 'A whole number';
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (wrong('time') || [...WHOLE].some(wrong)) {
      focusFirstWrong(event.currentTarget as HTMLElement);
      return;
    }
    const body: SchemaJobTypeIn = {
      code: form.code,
      name: form.name,
      duration_seconds: form.time.trim() ? parseLength(form.time) : null,
      priority: form.priority,
      needs: form.needs,
      certificates: form.certificates,
      crew: Number(form.crew) || 1,
      advice: form.advice,
      tasks: linesOf(form.tasks),
      questions: form.questions as never,
      fields: form.fields as never,
      parts: job?.parts ?? {},
      worth: number(form.worth),
      lines: linesOf(form.lines)
        .map(amounted)
        .map(({ words, amount }) => ({ description: words, quantity: amount })),
      visits: form.visits,
      respond_minutes: number(form.respond),
      resolve_minutes: number(form.resolve),
      promise_minutes: number(form.promise),
      offers: Object.fromEntries(
        Object.entries(form.offers)
          .filter(([, value]) => value.trim() !== '')
          .map(([key, value]) => [key, value === 'true' ? true : value === 'false' ? false : Number(value)]),
      ),
      retired: form.retired,
    };
    keep.mutate(
      { id: job?.id ?? null, version: job?.version ?? 0, body, parts: form.parts },
      {
        onSuccess: (made) => onKept(made.id),
      },
    );
  };
  const text = (name: Typed, label: string, hint = '') => (
    <TextField
      name={name}
      label={label}
      hint={hint}
      error={wrong(name) || undefined}
      value={form[name]}
      onChange={(event) => set({ [name]: event.target.value })}
    />
  );
  return (
    <form onSubmit={submit} aria-label="Job type">
      <fieldset disabled={!canChange} className="max-w-5xl space-y-4">
        <div className="grid grid-cols-[2fr_1fr_1fr_1fr] gap-2">
          {text('name', 'Name')}
          {job ? (
            <TextField label="Code" value={form.code} disabled onChange={() => {}} />
          ) : (
            text('code', 'Code', 'short, for files and alarms')
          )}
          {text('time', 'Usual length', '45 or 1:30; empty: not known')}
          {text('crew', 'Crew')}
        </div>
        <div className="grid grid-cols-5 gap-2">
          <SelectField
            label="Priority"
            value={form.priority}
            onChange={(event) => set({ priority: Number(event.target.value) })}
          >
            {[1, 2, 3, 4, 5].map((level) => (
              <option key={level}>{level}</option>
            ))}
          </SelectField>
          {text('respond', 'Respond within (min)')}
          {text('resolve', 'Resolve within (min)')}
          {text('promise', 'Promise length (min)', 'empty: the company’s windows')}
          {text('worth', 'Usually brings', 'whole money, empty: unknown')}
        </div>
        {text('advice', 'Advice to who takes the call')}
        <div className="grid grid-cols-2 gap-4">
          <SkillsField needs={form.needs} onChange={(needs) => set({ needs })} />
          <CertificatesField codes={form.certificates} onChange={(certificates) => set({ certificates })} />
        </div>
        <div className="grid grid-cols-3 gap-2">
          <TextArea
            label="Tasks in order, one per line"
            rows={5}
            value={form.tasks}
            onChange={(event) => set({ tasks: event.target.value })}
          />
          <PartsField
            parts={job?.parts ?? {}}
            typed={form.parts}
            onType={(parts) => set({ parts })}
            rows={5}
          />
          <TextArea
            label="Default lines, like: 1 Call-out"
            rows={5}
            value={form.lines}
            onChange={(event) => set({ lines: event.target.value })}
          />
        </div>
        <Section title="Checklist" note="Answered on the phone while the work is done.">
          <QuestionsEditor
            for_="checklist"
            questions={form.questions}
            onChange={(questions) => set({ questions })}
          />
        </Section>
        <Section title="Own fields of orders of this type" note="Asked while the call is taken.">
          <QuestionsEditor for_="record" questions={form.fields} onChange={(fields) => set({ fields })} />
        </Section>
        <Section title="Further visits" note="A sequence: made with the order, tied as they must be.">
          <FurtherVisits first={form.name} visits={form.visits} onChange={(visits) => set({ visits })} />
        </Section>
        <details className="text-sm">
          <summary className="cursor-pointer font-semibold">Offering a time, where it differs</summary>
          <div className="mt-1 grid grid-cols-4 gap-2">
            <SelectField
              label="Recommend windows"
              value={form.offers.offers_on ?? ''}
              onChange={(event) => set({ offers: { ...form.offers, offers_on: event.target.value } })}
            >
              <option value="">as the company does</option>
              <option value="true">yes</option>
              <option value="false">no</option>
            </SelectField>
            {OFFERS.map(([key, label]) => (
              <TextField
                key={key}
                label={label}
                placeholder="as the company"
                value={form.offers[key] ?? ''}
                onChange={(event) => set({ offers: { ...form.offers, [key]: event.target.value } })}
              />
            ))}
          </div>
        </details>
        <label className="flex items-center gap-1.5 text-sm">
          <input
            type="checkbox"
            checked={form.retired}
            onChange={(event) => set({ retired: event.target.checked })}
          />
          No longer used for new orders
        </label>
        <FormError error={keep.error} />
        <Button type="submit" rank="main" disabled={keep.isPending}>
          {job ? `Keep as edition ${job.version + 1}` : 'Make the job type'}
        </Button>
      </fieldset>
    </form>
  );
}

function Section({ title, note, children }: { title: string; note: string; children: ReactNode }) {
  return (
    <section aria-label={title}>
      <h2 className="border-b border-hairline text-sm font-semibold">
        {title} <span className="font-normal text-ink-soft">{note}</span>
      </h2>
      <div className="pt-1.5">{children}</div>
    </section>
  );
}
