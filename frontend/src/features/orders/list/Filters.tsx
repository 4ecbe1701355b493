import type { ReactNode } from 'react';
import { DayBox } from '@/design/DayField';
import { useJobTypes } from '@/features/catalogue';
import { useCompany, useRecordFields, useSetting, useTags } from '@/features/company';
import { useTechnicians } from '@/features/people';
import type { Question } from '@/shared/questions';
import type { OrdersSearch } from './search';

const STATES = ['open', 'planned', 'under_way', 'done', 'reviewed', 'cancelled'];
const TROUBLES: [string, string][] = [
  ['nobody', 'promised, nobody assigned'],
  ['overdue', 'overdue'],
  ['no duration', 'no duration yet'],
  ['standby', 'on standby'],
  ['unsent', 'placed, not sent'],
];
const BILLINGS = ['billable', 'not billable', 'contract'];
const YES_NO: [string, string][] = [
  ['true', 'yes'],
  ['false', 'no'],
];
const BOX = 'w-full rounded-sm border border-hairline bg-sheet px-1.5 py-1 text-sm';

interface Props {
  search: OrdersSearch;
  onChange: (changes: Partial<OrdersSearch>) => void;
}

/** Everything the list of orders can be narrowed by. */
export function Filters({ search, onChange }: Props) {
  const fields = { search, onChange };
  return (
    <div className="space-y-2.5 text-sm">
      <Choice label="What is wrong">
        <Pick
          label="What is wrong"
          any="anything"
          value={search.trouble}
          options={TROUBLES}
          onPick={(trouble) => onChange({ trouble })}
        />
      </Choice>
      <Ticks
        label="State"
        rows={STATES.map((state) => [state, state.replace('_', ' ')])}
        chosen={search.states ?? []}
        onChange={(states) => onChange({ states: states.length > 0 ? states : undefined })}
      />
      <Ticks
        label="Priority"
        rows={[1, 2, 3, 4, 5].map((level) => [level, String(level)])}
        chosen={search.priorities ?? []}
        onChange={(priorities) => onChange({ priorities: priorities.length > 0 ? priorities : undefined })}
        inline
      />
      <WorkAndPeople {...fields} />
      <Marks {...fields} />
      <Dates label="Made" from="madeFrom" until="madeUntil" {...fields} />
      <Dates label="Promised" from="promisedFrom" until="promisedUntil" {...fields} />
      <OwnFields {...fields} />
    </div>
  );
}

function WorkAndPeople({ search, onChange }: Props) {
  const jobs = useJobTypes(true);
  const company = useCompany();
  const technicians = useTechnicians();
  const numbered = (rows: { id: number; name: string }[] | undefined): [string, string][] =>
    (rows ?? []).map((row) => [String(row.id), row.name]);
  return (
    <>
      <Choice label="Job type">
        <Pick
          label="Job type"
          any="any"
          value={search.jobs?.[0]}
          options={numbered(jobs.data)}
          onPick={(id) => onChange({ jobs: id ? [Number(id)] : undefined })}
        />
      </Choice>
      <Choice label="Area">
        <Pick
          label="Area"
          any="any"
          value={search.areas?.[0]}
          options={numbered(company.data?.areas)}
          onPick={(id) => onChange({ areas: id ? [Number(id)] : undefined })}
        />
      </Choice>
      <Choice label="Technician">
        <Pick
          label="Technician"
          any="anybody"
          value={search.technician}
          options={numbered(technicians.data)}
          onPick={(id) => onChange({ technician: id ? Number(id) : undefined })}
        />
      </Choice>
    </>
  );
}

/** What orders are marked with: tags, billing, how they came in. */
function Marks({ search, onChange }: Props) {
  const tags = useTags().data ?? [];
  const sources = useSetting<string[]>('sources', []);
  return (
    <>
      <Ticks
        label="Tags"
        rows={tags.map((tag) => [tag.code, tag.name])}
        chosen={search.tags ?? []}
        onChange={(chosen) => onChange({ tags: chosen.length > 0 ? chosen : undefined })}
      />
      <Choice label="Billing and source">
        <div className="space-y-1">
          <Pick
            label="Billing"
            any="any billing"
            value={search.billing}
            options={BILLINGS.map((billing) => [billing, billing])}
            onPick={(billing) => onChange({ billing })}
          />
          <Pick
            label="Source"
            any="any source"
            value={search.source}
            options={sources.map((source) => [source, source])}
            onPick={(source) => onChange({ source })}
          />
        </div>
      </Choice>
    </>
  );
}

/** Fields of the company's own that have a few answers. */
function OwnFields({ search, onChange }: Props) {
  const own = useRecordFields();
  const questions = (own.data?.find((row) => row.record === 'order')?.questions ??
    []) as unknown as Question[];
  const extra = search.extra ?? {};
  const answer = (question: Question, picked: string | undefined) => {
    const rest = Object.fromEntries(Object.entries(extra).filter(([key]) => key !== question.key));
    const value = question.kind === 'yes_no' ? picked === 'true' : picked;
    onChange({ extra: picked && value !== undefined ? { ...rest, [question.key]: value } : rest });
  };
  return questions
    .filter((question) => question.kind === 'choice' || question.kind === 'yes_no')
    .map((question) => (
      <Choice key={question.key} label={question.label}>
        <Pick
          label={question.label}
          any="any"
          value={extra[question.key] as string | undefined}
          options={question.kind === 'yes_no' ? YES_NO : (question.choices ?? []).map((row) => [row, row])}
          onPick={(picked) => answer(question, picked)}
        />
      </Choice>
    ));
}

interface PickProps {
  label: string;
  /** What no choice is called. */
  any: string;
  value: string | number | boolean | undefined;
  /** Values and what they are called. */
  options: [string, string][];
  onPick: (value: string | undefined) => void;
}

const Pick = ({ label, any, value, options, onPick }: PickProps) => (
  <select
    aria-label={label}
    className={BOX}
    value={value === undefined ? '' : String(value)}
    onChange={(event) => onPick(event.target.value || undefined)}
  >
    <option value="">{any}</option>
    {options.map(([key, words]) => (
      <option key={key} value={key}>
        {words}
      </option>
    ))}
  </select>
);

function Choice({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div>
      <p className="text-xs font-semibold text-ink-soft">{label}</p>
      {children}
    </div>
  );
}

function Ticks<Value extends string | number>({
  label,
  rows,
  chosen,
  onChange,
  inline = false,
}: {
  label: string;
  rows: [Value, string][];
  chosen: Value[];
  onChange: (chosen: Value[]) => void;
  inline?: boolean;
}) {
  return (
    <fieldset className={inline ? 'flex gap-2' : ''}>
      <legend className="text-xs font-semibold text-ink-soft">{label}</legend>
      {rows.map(([value, words]) => (
        <label key={value} className="flex items-center gap-1">
          <input
            type="checkbox"
            checked={chosen.includes(value)}
            onChange={(event) =>
              onChange(event.target.checked ? [...chosen, value] : chosen.filter((other) => other !== value))
            }
          />
          {words}
        </label>
      ))}
    </fieldset>
  );
}

type DateKey = 'madeFrom' | 'madeUntil' | 'promisedFrom' | 'promisedUntil';

function Dates({
  label,
  from,
  until,
  search,
  onChange,
}: Props & { label: string; from: DateKey; until: DateKey }) {
  return (
    <Choice label={label}>
      {([from, until] as const).map((name, index) => (
        <DayBox
          key={name}
          name={`${label} ${index === 0 ? 'from' : 'until'}`}
          className="mb-1 block"
          past={from === 'madeFrom'}
          value={search[name] ?? ''}
          onChange={(day) => onChange({ [name]: day || undefined })}
        />
      ))}
    </Choice>
  );
}
