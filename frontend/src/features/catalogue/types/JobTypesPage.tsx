import { useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '@/api/client';
import type { SchemaJobTypeOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Notice } from '@/design/Notice';
import { MergeInto, UsedBy } from '@/design/Uses';
import { may, useSession } from '@/features/people';
import { length, stamp } from '@/shared/time';
import { useEditions, useJobTypes, useJobTypeUses, useMergeJobType } from '../queries';
import { JobTypeForm } from './JobTypeForm';
import { Starters } from './Starters';

/** Templates of work orders. A change makes a new edition: orders keep the one they were made with. */
export function JobTypesPage() {
  const jobs = useJobTypes(true);
  const [chosen, setChosen] = useState<number | 'new' | 'starters' | null>(null);
  const canChange = may(useSession(), 'change_settings');
  const rows = jobs.data ?? [];
  const row = rows.find((job) => job.id === chosen) ?? null;
  return (
    <div className="grid h-full min-h-0 grid-cols-[20rem_minmax(0,1fr)]">
      <div className="min-h-0 overflow-y-auto border-r border-hairline">
        <header className="flex items-center justify-between px-3 py-2">
          <h1 className="text-lg font-semibold">Job types</h1>
          {canChange && (
            <span className="flex gap-2">
              <Button onClick={() => setChosen('starters')}>From a trade</Button>
              <Button onClick={() => setChosen('new')}>New one</Button>
            </span>
          )}
        </header>
        {jobs.isError && <Notice tone="bad">{sentenceOf(jobs.error)}</Notice>}
        <ul className="divide-y divide-hairline border-t border-hairline text-sm" aria-label="Job types">
          {rows.map((job) => (
            <Row key={job.id} job={job} chosen={job.id === chosen} onChoose={() => setChosen(job.id)} />
          ))}
        </ul>
      </div>
      <div className="min-h-0 overflow-y-auto p-4">
        {chosen === null && <NoneChosen none={jobs.data?.length === 0} />}
        {chosen === 'starters' && <Starters onDone={() => setChosen(null)} />}
        {(row || chosen === 'new') && (
          <JobTypeForm
            key={`${chosen} ${row?.version ?? 0}`}
            job={row}
            canChange={canChange}
            onKept={(id) => setChosen(id)}
          />
        )}
        {row && (
          <OneJobType
            key={row.id}
            job={row}
            others={canChange ? rows.filter(({ id, retired }) => id !== row.id && !retired) : []}
            onMerged={setChosen}
          />
        )}
        {row && <Editions job={row} />}
      </div>
    </div>
  );
}

function Editions({ job }: { job: SchemaJobTypeOut }) {
  const rows = useEditions(job.id).data ?? [];
  if (rows.length === 0) return null;
  return (
    <section aria-label="Editions" className="mt-4 text-sm">
      <h2 className="font-semibold">Editions</h2>
      <ul>
        {rows.map((edition) => (
          <li key={edition.id}>
            <span className="figures">{edition.number}</span> · {stamp(edition.made_at)} · {edition.made_by}
          </li>
        ))}
      </ul>
    </section>
  );
}

interface OneProps {
  job: SchemaJobTypeOut;
  others: SchemaJobTypeOut[];
  onMerged: (into: number) => void;
}

/** Who has a job type, and making it one with another. */
function OneJobType({ job, others, onMerged }: OneProps) {
  const uses = useJobTypeUses(job.id);
  const merge = useMergeJobType();
  return (
    <section aria-label={`Who uses ${job.name}`} className="mt-4 max-w-sm space-y-2 text-sm">
      <h2 className="font-semibold">Who uses it</h2>
      <UsedBy uses={uses} />
      <MergeInto
        name={job.name}
        others={others.map(({ id, name }) => ({ key: id, name }))}
        busy={merge.isPending}
        error={merge.error}
        onMerge={(into, name) =>
          merge.mutate(
            { job, into },
            {
              onSuccess: () => {
                toast.success(`${job.name} is ${name} now`);
                onMerged(into);
              },
            },
          )
        }
        hint="Orders keep the edition they were made with."
      />
    </section>
  );
}

const NoneChosen = ({ none }: { none: boolean }) => (
  <p className="text-ink-soft">
    {none
      ? 'No job type yet. Tick those of your trade, or make one for the work you do most: it fills in the length, the skills and the checklist.'
      : 'Choose a job type to see what an order made with it gets.'}
  </p>
);

const Row = ({ job, chosen, onChoose }: { job: SchemaJobTypeOut; chosen: boolean; onChoose: () => void }) => (
  <li className={chosen ? 'bg-copper-wash' : ''}>
    <button
      type="button"
      className="flex w-full items-baseline gap-2 px-3 py-1 text-left hover:bg-wash"
      onClick={onChoose}
    >
      <span className="figures w-4 text-ink-soft">{job.priority}</span>
      <span className={`flex-1 ${job.retired ? 'text-ink-soft line-through' : 'font-semibold'}`}>
        {job.name}
      </span>
      <span className="text-ink-soft">
        {job.duration_seconds ? length(job.duration_seconds) : 'no length'}
        {job.crew > 1 ? ` × ${job.crew}` : ''}
      </span>
    </button>
  </li>
);
