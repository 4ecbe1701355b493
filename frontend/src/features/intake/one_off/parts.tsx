import { sentenceOf } from '@/api/client';
import type { SchemaAssetOut } from '@/api/types';
import { Button } from '@/design/Button';
import { SelectField } from '@/design/Field';
import { FormArea, FormDay, FormSelect, FormText, FormValue, KeepOrLeave } from '@/design/form';
import { useSetting } from '@/features/company';
import { useJobTypes } from '@/features/catalogue';
import { SkillsField } from '@/features/people';
import { length, stamp } from '@/shared/time';
import { JobChoice } from '../Choices';
import { Texts } from '../DetailsFields';
import { PRIORITIES } from '../model';
import type { OneOff } from './OneOffForm';
import { lengthFor } from './model';

interface WhatProps {
  one: OneOff;
  assets: readonly SchemaAssetOut[];
}

/** The job, on which asset, in words for three readers: the office, the technician, whoever pays. */
export function WhatIsDone({ one, assets }: WhatProps) {
  const jobs = useJobTypes().data ?? [];
  return (
    <>
      <div className="grid grid-cols-2 gap-2">
        <JobChoice
          job={one.jobTypeId}
          none="none: say it in words"
          onChange={(id) =>
            one.chooseJob(
              id,
              jobs.find((row) => row.id === id),
            )
          }
        />
        <SelectField
          label="Asset"
          value={one.asset ?? ''}
          onChange={(event) => one.setAsset(Number(event.target.value) || null)}
        >
          <option value="">none</option>
          {assets.map((row) => (
            <option key={row.id} value={row.id}>
              {row.kind} {row.serial}
            </option>
          ))}
        </SelectField>
      </div>
      <FormText name="title" label="Title" placeholder={one.job?.name ?? 'what the job is called'} />
      <FormArea name="description" label="What is to be done" rows={3} />
      <Texts details={one.details} set={(changes) => one.setDetails((old) => ({ ...old, ...changes }))} />
    </>
  );
}

/** How long, how many people, how many days; and the visits that makes. */
export function WhoAndWhen({ one }: { one: OneOff }) {
  const sources = useSetting<string[]>('sources', ['phone']);
  return (
    <section aria-label="Who and when" className="space-y-2 rounded-sm bg-wash p-2">
      <div className="grid grid-cols-3 gap-2">
        <FormText name="duration_seconds" label="Length of the work" placeholder="45, 1:30 or 16h" />
        <FormText name="crew" label="People" inputMode="numeric" />
        <FormText name="days" label="Over days" inputMode="numeric" />
        <FormSelect name="priority" label="Priority">
          {PRIORITIES.map((words, index) => (
            <option key={words} value={index + 1}>
              {index + 1}, {words}
            </option>
          ))}
        </FormSelect>
        <FormDay name="earliest" label="Not before" />
        <FormDay name="due" label="To be done by" />
        <FormText name="contact_name" label="Who to ask for" />
        <FormText name="contact_phone" label="Their phone" type="tel" />
        <FormSelect name="source" label="Heard of us by">
          {[...new Set(['phone', ...sources])].map((row) => (
            <option key={row}>{row}</option>
          ))}
        </FormSelect>
        <div className="col-span-3">
          <FormValue name="needs">
            {({ value, onChange }) => (
              <SkillsField needs={value as Record<string, number>} onChange={onChange} />
            )}
          </FormValue>
        </div>
      </div>
      <EffortOfLines one={one} />
      <Becomes one={one} />
    </section>
  );
}

/** The labour that the lines are counted with, and the length that it makes. */
function EffortOfLines({ one }: { one: OneOff }) {
  const effort = one.figures.sums[0]?.effort.hours ?? 0;
  if (!effort) return null;
  const text = lengthFor(effort, one.typed.crew);
  return (
    <p className="text-sm text-ink-soft">
      The lines are counted with {effort.toLocaleString('en-GB', { maximumFractionDigits: 2 })} h of labour.{' '}
      <Button
        rank="quiet"
        onClick={() => one.kept.form.setValue('duration_seconds', text, { shouldValidate: true })}
      >
        Set the length to {text}
      </Button>
    </p>
  );
}

/** The visits that it becomes, from the computation that makes them. */
function Becomes({ one }: { one: OneOff }) {
  const { becomes } = one;
  if (becomes.isError)
    return (
      <p role="alert" className="text-sm text-bad">
        {sentenceOf(becomes.error)}
      </p>
    );
  if (!becomes.data) return null;
  const { visits, due, problem } = becomes.data;
  return (
    <div className={`text-sm ${becomes.isPlaceholderData ? 'opacity-60' : ''}`}>
      <h3 className="text-xs font-semibold text-ink-soft">
        {visits.length === 1 ? 'One visit' : `${visits.length} visits, one after the other`}
        {due ? `, to be done by ${stamp(due)}` : ''}
      </h3>
      {problem && (
        <p role="alert" className="text-bad">
          {problem}
        </p>
      )}
      <ul aria-label="Visits it becomes">
        {visits.map((visit) => (
          <li key={visit.title}>
            {visit.title || 'the job'} · {visit.seconds ? length(visit.seconds) : 'nobody knows how long'} ·{' '}
            {visit.crew === 1 ? 'one person' : `${visit.crew} people`}
          </li>
        ))}
      </ul>
    </div>
  );
}

export const MakeBar = ({ one }: { one: OneOff }) => (
  <div className="sticky bottom-0 flex items-center gap-3 border-t border-hairline bg-paper py-2">
    {one.ready ? (
      <KeepOrLeave words="Make the order" />
    ) : (
      <span className="text-sm text-bad">Something in the lines cannot be read yet.</span>
    )}
    <span className="text-sm text-ink-soft">
      It goes to the backlog; a time is promised from the order or the board.
    </span>
  </div>
);
