import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import { toast } from 'sonner';
import { z } from 'zod';
import { api, data, sentenceOf } from '@/api/client';
import type { SchemaDaysAskedOut, SchemaDaysOffOut } from '@/api/types';
import { Button } from '@/design/Button';
import { Form, FormDay, FormSelect, FormText, useKeptForm } from '@/design/form';
import { Notice } from '@/design/Notice';
import { dayName, moment } from '@/shared/time';
import { fieldKey, useLiveField } from './queries';

const KEY = [...fieldKey, 'days off'] as const;

/** Days off that one asks for, and what was answered. */
export function DaysOff() {
  useLiveField();
  // Another empty form each time that something was asked for.
  const [times, setTimes] = useState(0);
  const off = useQuery({ queryKey: KEY, queryFn: () => data(api.GET('/api/v1/field/days-off')) });
  return (
    <main className="mx-auto flex min-h-full max-w-md flex-col gap-4 bg-sheet p-3">
      <header className="flex items-center justify-between">
        <h1 className="text-lg font-semibold">Days off</h1>
        <Link to="/field" className="min-h-12 px-2 py-3 underline">
          Back to the day
        </Link>
      </header>
      {off.isError && <Notice tone="bad">{sentenceOf(off.error)}</Notice>}
      {off.data && <Allowance {...off.data.allowance} />}
      <Ask key={times} onAsked={() => setTimes(times + 1)} />
      {off.data && <Asked rows={off.data.asked} />}
    </main>
  );
}

const Allowance = ({ year, days, taken }: SchemaDaysOffOut['allowance']) => (
  <p>
    {days === null || days === undefined
      ? `${taken} ${taken === 1 ? 'day' : 'days'} of holiday granted in ${year}.`
      : `${taken} of ${days} days of holiday granted in ${year}, ${days - taken} left.`}
  </p>
);

const schema = z.object({
  first_day: z.string().min(1, 'From which day on?'),
  last_day: z.string(),
  kind: z.enum(['holiday', 'sickness', 'training', 'other']),
  words: z.string(),
});

function Ask({ onAsked }: { onAsked: () => void }) {
  const client = useQueryClient();
  const kept = useKeptForm({
    schema,
    values: { first_day: '', last_day: '', kind: 'holiday' as const, words: '' },
    keep: async ({ last_day, ...read }) => {
      const body = { ...read, last_day: last_day || read.first_day };
      await data(api.POST('/api/v1/field/days-off', { body }));
      toast.success('Asked for. The answer stands here.');
      await client.invalidateQueries({ queryKey: KEY });
      onAsked();
    },
  });
  return (
    <Form kept={kept} label="Ask for days off" className="space-y-2 border-y border-hairline py-3">
      <div className="grid grid-cols-2 gap-2">
        <FormDay name="first_day" label="First day" />
        <FormDay name="last_day" label="Last day; empty: one day" />
      </div>
      <FormSelect name="kind" label="What for">
        <option value="holiday">holiday</option>
        <option value="sickness">sickness</option>
        <option value="training">training</option>
        <option value="other">something else</option>
      </FormSelect>
      <FormText name="words" label="What the desk should know" maxLength={300} />
      <Button type="submit" rank="main" className="min-h-12 w-full">
        Ask for it
      </Button>
    </Form>
  );
}

function Asked({ rows }: { rows: SchemaDaysAskedOut[] }) {
  const client = useQueryClient();
  const withdraw = useMutation({
    mutationFn: (id: number) =>
      data(api.DELETE('/api/v1/field/days-off/{asked_id}', { params: { path: { asked_id: id } } })),
    onSettled: () => client.invalidateQueries({ queryKey: KEY }),
  });
  return (
    <>
      {withdraw.isError && <Notice tone="bad">{sentenceOf(withdraw.error)}</Notice>}
      <ul aria-label="Asked for" className="divide-y divide-hairline">
        {rows.length === 0 && <li className="py-2 text-ink-soft">You have not asked for any days yet.</li>}
        {rows.map((row) => (
          <li key={row.id} className="space-y-0.5 py-2">
            <p className="flex justify-between gap-2">
              <b>{spanOf(row)}</b>
              <span className={row.state === 'declined' ? 'text-bad' : ''}>{row.state}</span>
            </p>
            <p className="text-sm text-ink-soft">
              {[row.kind, row.words].filter(Boolean).join(': ')}
              {row.answered_by && row.state !== 'withdrawn' && ` — ${row.answered_by}`}
              {row.answer && `: ${row.answer}`}
            </p>
            {row.state === 'asked' && (
              <Button
                className="min-h-12"
                disabled={withdraw.isPending}
                onClick={() => withdraw.mutate(row.id)}
              >
                Take it back
              </Button>
            )}
          </li>
        ))}
      </ul>
    </>
  );
}

const spanOf = ({ first_day, last_day }: Pick<SchemaDaysAskedOut, 'first_day' | 'last_day'>) => {
  const first = dayName(moment(first_day, 720));
  return first_day === last_day ? first : `${first} to ${dayName(moment(last_day, 720))}`;
};
