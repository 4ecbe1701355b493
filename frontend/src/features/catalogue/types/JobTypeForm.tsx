import type { ReactNode } from 'react';
import { useWatch } from 'react-hook-form';
import type { SchemaJobTypeOut, SchemaPartIn, SchemaWorkStepIn } from '@/api/types';
import { SelectField, TextField } from '@/design/Field';
import {
  Form,
  FormArea,
  FormCheck,
  FormSelect,
  FormText,
  FormValue,
  KeepOrLeave,
  useKeptForm,
} from '@/design/form';
import { QuestionsEditor } from '@/features/company';
import { CertificatesField, SkillsField } from '@/features/people';
import { LinesEditor, SumsBox, useCurrency, useFigures, type TypedLine } from '@/features/pricing';
import { StepsEditor } from '@/features/reports';
import { PartsField } from '@/features/stock';
import type { Question } from '@/shared/questions';
import { useKeepJobType } from '../commands';
import { FurtherVisits } from './FurtherVisits';
import { bodyOf, jobTypeSchema, typedFrom } from './jobTypeFields';

interface Props {
  job: SchemaJobTypeOut | null;
  canChange: boolean;
  onKept: (id: number) => void;
}

/** Everything an order of this type gets. */
export function JobTypeForm({ job, canChange, onKept }: Props) {
  const keep = useKeepJobType();
  const currency = useCurrency();
  const kept = useKeptForm({
    schema: jobTypeSchema(currency),
    values: typedFrom(job, currency),
    keep: async (read) => {
      const made = await keep.mutateAsync({
        id: job?.id ?? null,
        version: job?.version ?? 0,
        body: bodyOf(read, job, currency),
        parts: read.parts,
      });
      onKept(made.id);
    },
  });
  const name = useWatch({ control: kept.form.control, name: 'name' });
  return (
    <Form kept={kept} label="Job type">
      <fieldset disabled={!canChange} className="max-w-5xl space-y-4">
        <Basics isNew={job === null} />
        <Needs />
        <Lists parts={job?.parts ?? {}} />
        <Prices />
        <Asked name="questions" title="Checklist" note="Answered on the phone while the work is done." />
        <Steps />
        <Asked
          name="fields"
          title="Own fields of orders of this type"
          note="Asked while the call is taken."
        />
        <Section title="Further visits" note="A sequence: made with the order, tied as they must be.">
          <FormValue name="visits">
            {({ value, onChange }) => (
              <FurtherVisits first={name} visits={value as SchemaPartIn[]} onChange={onChange} />
            )}
          </FormValue>
        </Section>
        <OwnOffers />
        <FormCheck name="retired" words="No longer used for new orders" />
        <KeepOrLeave words={job ? `Save as edition ${job.version + 1}` : 'Make the job type'} />
      </fieldset>
    </Form>
  );
}

const Basics = ({ isNew }: { isNew: boolean }) => (
  <>
    <div className="grid grid-cols-[2fr_1fr_1fr_1fr] gap-2">
      <FormText name="name" label="Name" />
      <FormText name="code" label="Code" hint={isNew && 'short, for files and alarms'} disabled={!isNew} />
      <FormText name="duration_seconds" label="Usual length" hint="45 or 1:30; empty: not known" />
      <FormText name="crew" label="Crew" />
    </div>
    <div className="grid grid-cols-5 gap-2">
      <FormSelect name="priority" label="Priority">
        {[1, 2, 3, 4, 5].map((level) => (
          <option key={level}>{level}</option>
        ))}
      </FormSelect>
      <FormText name="respond_minutes" label="Respond within (min)" />
      <FormText name="resolve_minutes" label="Resolve within (min)" />
      <FormText name="promise_minutes" label="Promise length (min)" hint="empty: the company’s windows" />
      <FormText name="worth" label="Usually brings" hint="where the lines have no prices" />
    </div>
    <FormText name="advice" label="Advice to who takes the call" />
  </>
);

const Needs = () => (
  <div className="grid grid-cols-2 gap-4">
    <FormValue name="needs">
      {({ value, onChange }) => <SkillsField needs={value as Record<string, number>} onChange={onChange} />}
    </FormValue>
    <FormValue name="certificates">
      {({ value, onChange }) => <CertificatesField codes={value as string[]} onChange={onChange} />}
    </FormValue>
  </div>
);

const Lists = ({ parts }: { parts: Record<string, number> }) => (
  <div className="grid grid-cols-2 gap-2">
    <FormArea name="tasks" label="Tasks in order, one per line" rows={5} />
    <FormValue name="parts">
      {({ value, onChange, error }) => (
        <PartsField parts={parts} typed={value as string | null} onType={onChange} rows={5} error={error} />
      )}
    </FormValue>
  </div>
);

/** What the phone leads through. */
const Steps = () => (
  <Section
    title="Steps of the work"
    note="The phone leads through them in this order; the work is not finished without those that have to be done."
  >
    <FormValue name="steps">
      {({ value, onChange, error }) => (
        <>
          <StepsEditor steps={value as SchemaWorkStepIn[]} onChange={onChange} />
          {error && (
            <p role="alert" className="text-xs text-bad">
              {error}
            </p>
          )}
        </>
      )}
    </FormValue>
  </Section>
);

/** What it usually costs: lines of the price list that new orders and quotes begin with. */
const Prices = () => (
  <Section
    title="Lines"
    note="What it costs: new orders and quotes begin with them, at the customer’s prices."
  >
    <FormValue name="lines">
      {({ value, onChange, error }) => (
        <>
          <TypeLines lines={value as TypedLine[]} onChange={onChange} />
          {error && (
            <p role="alert" className="text-xs text-bad">
              {error}
            </p>
          )}
        </>
      )}
    </FormValue>
    <div className="mt-2 grid grid-cols-[12rem_1fr] gap-2">
      <FormText
        name="wanted_per_hour"
        label="Wanted for a labour-hour"
        hint="whole money; empty: as the company wants"
        inputMode="numeric"
      />
      <FormArea name="terms" label="Terms of its quotes; empty: the company’s" rows={2} />
    </div>
  </Section>
);

function TypeLines({ lines, onChange }: { lines: TypedLine[]; onChange: (lines: TypedLine[]) => void }) {
  const currency = useCurrency();
  const { sums, isOld } = useFigures({
    sets: [{ lines, discounts: [] }],
    customerId: null,
    jobTypeId: null,
    currency,
  });
  return (
    <div className="grid gap-4 2xl:grid-cols-[minmax(0,1fr)_14rem]">
      <LinesEditor lines={lines} onChange={onChange} sums={sums[0]} canBeOptional />
      {sums[0] && lines.length > 0 && <SumsBox sums={sums[0]} isOld={isOld} />}
    </div>
  );
}

const Asked = ({ name, title, note }: { name: 'questions' | 'fields'; title: string; note: string }) => (
  <Section title={title} note={note}>
    <FormValue name={name}>
      {({ value, onChange, error }) => (
        <>
          <QuestionsEditor
            for_={name === 'questions' ? 'checklist' : 'record'}
            questions={value as Question[]}
            onChange={onChange}
          />
          {error && (
            <p role="alert" className="text-xs text-bad">
              {error}
            </p>
          )}
        </>
      )}
    </FormValue>
  </Section>
);

const OFFERS: [string, string][] = [
  ['offers_least', 'Recommended from (points)'],
  ['near_metres', 'Near means within (m)'],
  ['weight_near', 'Weight of near work'],
  ['weight_driving', 'Weight of driving'],
  ['weight_soon', 'Weight of soonness'],
  ['weight_rare', 'Weight of rare skills'],
  ['weight_load', 'Weight of load'],
];

/** How a time is offered for this work, where that differs from the company's way. */
const OwnOffers = () => (
  <FormValue name="offers">
    {({ value, onChange }) => {
      const offers = value as Record<string, string>;
      return (
        <details className="text-sm">
          <summary className="cursor-pointer font-semibold">Offering a time, where it differs</summary>
          <div className="mt-1 grid grid-cols-4 gap-2">
            <SelectField
              label="Recommend windows"
              value={offers.offers_on ?? ''}
              onChange={(event) => onChange({ ...offers, offers_on: event.target.value })}
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
                value={offers[key] ?? ''}
                onChange={(event) => onChange({ ...offers, [key]: event.target.value })}
              />
            ))}
          </div>
        </details>
      );
    }}
  </FormValue>
);

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
