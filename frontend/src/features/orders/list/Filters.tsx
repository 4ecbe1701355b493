import type { ReactNode } from 'react';
import { DayBox } from '@/design/DayField';
import { useJobTypes } from '@/features/catalogue';
import { useCompany, useRecordFields, useSetting } from '@/features/company';
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
const BOX = 'w-full rounded-sm border border-hairline bg-sheet px-1.5 py-1 text-sm';

interface Props {
  search: OrdersSearch;
  onChange: (changes: Partial<OrdersSearch>) => void;
}

export function Filters({ search, onChange }: Props) {
  const jobs = useJobTypes(true);
  const company = useCompany();
  const technicians = useTechnicians();
  const tags = useSetting<string[]>('tags', []);
  const sources = useSetting<string[]>('sources', []);
  const own = useRecordFields();
  const questions = (own.data?.find((row) => row.record === 'order')?.questions ??
    []) as unknown as Question[];
  const extra = search.extra ?? {};
  return (
    <div className="space-y-2.5 text-sm">
      <Choice label="What is wrong">
        <select
          aria-label="What is wrong"
          className={BOX}
          value={search.trouble ?? ''}
          onChange={(event) => onChange({ trouble: event.target.value || undefined })}
        >
          <option value="">anything</option>
          {TROUBLES.map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </select>
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
      <Choice label="Job type">
        <select
          aria-label="Job type"
          className={BOX}
          value={search.jobs?.[0] ?? ''}
          onChange={(event) =>
            onChange({ jobs: event.target.value ? [Number(event.target.value)] : undefined })
          }
        >
          <option value="">any</option>
          {(jobs.data ?? []).map((row) => (
            <option key={row.id} value={row.id}>
              {row.name}
            </option>
          ))}
        </select>
      </Choice>
      <Choice label="Area">
        <select
          aria-label="Area"
          className={BOX}
          value={search.areas?.[0] ?? ''}
          onChange={(event) => onChange({ areas: event.target.value ? [event.target.value] : undefined })}
        >
          <option value="">any</option>
          {(company.data?.areas ?? []).map((row) => (
            <option key={row.id}>{row.name}</option>
          ))}
        </select>
      </Choice>
      <Choice label="Technician">
        <select
          aria-label="Technician"
          className={BOX}
          value={search.technician ?? ''}
          onChange={(event) =>
            onChange({ technician: event.target.value ? Number(event.target.value) : undefined })
          }
        >
          <option value="">anybody</option>
          {(technicians.data ?? []).map((row) => (
            <option key={row.id} value={row.id}>
              {row.name}
            </option>
          ))}
        </select>
      </Choice>
      <Ticks
        label="Tags"
        rows={tags.map((tag) => [tag, tag])}
        chosen={search.tags ?? []}
        onChange={(chosen) => onChange({ tags: chosen.length > 0 ? chosen : undefined })}
      />
      <Choice label="Billing and source">
        <select
          aria-label="Billing"
          className={BOX}
          value={search.billing ?? ''}
          onChange={(event) => onChange({ billing: event.target.value || undefined })}
        >
          <option value="">any billing</option>
          <option>billable</option>
          <option>not billable</option>
          <option>contract</option>
        </select>
        <select
          aria-label="Source"
          className={`${BOX} mt-1`}
          value={search.source ?? ''}
          onChange={(event) => onChange({ source: event.target.value || undefined })}
        >
          <option value="">any source</option>
          {sources.map((source) => (
            <option key={source}>{source}</option>
          ))}
        </select>
      </Choice>
      <Dates label="Made" from="madeFrom" until="madeUntil" search={search} onChange={onChange} />
      <Dates label="Promised" from="promisedFrom" until="promisedUntil" search={search} onChange={onChange} />
      {questions
        .filter((question) => question.kind === 'choice' || question.kind === 'yes_no')
        .map((question) => (
          <Choice key={question.key} label={question.label}>
            <select
              aria-label={question.label}
              className={BOX}
              value={String(extra[question.key] ?? '')}
              onChange={(event) => {
                const rest = Object.fromEntries(
                  Object.entries(extra).filter(([key]) => key !== question.key),
                );
                const value = question.kind === 'yes_no' ? event.target.value === 'true' : event.target.value;
                onChange({ extra: event.target.value ? { ...rest, [question.key]: value } : rest });
              }}
            >
              <option value="">any</option>
              {question.kind === 'yes_no' ? (
                <>
                  <option value="true">yes</option>
                  <option value="false">no</option>
                </>
              ) : (
                (question.choices ?? []).map((choice) => <option key={choice}>{choice}</option>)
              )}
            </select>
          </Choice>
        ))}
    </div>
  );
}

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
