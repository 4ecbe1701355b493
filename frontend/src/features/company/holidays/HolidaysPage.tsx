import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { api, data, sentenceOf } from '@/api/client';
import { DayField } from '@/design/DayField';
import { Button } from '@/design/Button';
import { FormError } from '@/design/FormError';
import { TextField } from '@/design/Field';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { dayName, moment } from '@/shared/time';

const KEY = ['company', 'holidays'] as const;

/** Days on which nobody has a shift. */
export function HolidaysPage() {
  const client = useQueryClient();
  const canChange = may(useSession(), 'change_settings');
  const holidays = useQuery({ queryKey: KEY, queryFn: () => data(api.GET('/api/v1/company/holidays')) });
  const remove = useMutation({
    mutationFn: (id: number) =>
      data(api.DELETE('/api/v1/company/holidays/{holiday_id}', { params: { path: { holiday_id: id } } })),
    onSettled: () => client.invalidateQueries({ queryKey: KEY }),
  });
  return (
    <div className="max-w-2xl space-y-4 p-4">
      <div>
        <h1 className="text-lg font-semibold">Holidays</h1>
        <p className="text-sm text-ink-soft">
          On these days nobody has a shift: nothing is offered or planned. What is placed on such a day
          already stays there, and says that it stands outside the shift.
        </p>
      </div>
      {canChange && <Add />}
      {holidays.isError && <Notice tone="bad">{sentenceOf(holidays.error)}</Notice>}
      {remove.isError && <Notice tone="bad">{sentenceOf(remove.error)}</Notice>}
      <ul aria-label="Holidays" className="divide-y divide-hairline border-y border-hairline text-sm">
        {holidays.data?.map((row) => (
          <li key={row.id} className="flex items-center gap-3 py-1.5">
            <time className="figures w-28" dateTime={row.day}>
              {row.day}
            </time>
            <span className="w-24 text-ink-soft">{dayName(moment(row.day, 720))}</span>
            <span className="flex-1 font-semibold">{row.name}</span>
            {canChange && (
              <Button
                rank="quiet"
                aria-label={`Remove ${row.name}`}
                disabled={remove.isPending}
                onClick={() => remove.mutate(row.id)}
              >
                Remove
              </Button>
            )}
          </li>
        ))}
        {holidays.data?.length === 0 && <li className="py-2 text-ink-soft">There are no holidays yet.</li>}
      </ul>
    </div>
  );
}

function Add() {
  const client = useQueryClient();
  const [day, setDay] = useState('');
  const [name, setName] = useState('');
  const add = useMutation({
    mutationFn: () => data(api.POST('/api/v1/company/holidays', { body: { day, name } })),
    onSuccess: () => {
      setDay('');
      setName('');
    },
    onSettled: () => client.invalidateQueries({ queryKey: KEY }),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    add.mutate();
  };
  return (
    <form onSubmit={submit} aria-label="Add a holiday" className="space-y-2">
      <div className="flex items-end gap-2">
        <DayField name="day" label="Day" required value={day} onChange={setDay} />
        <TextField
          name="name"
          label="Name"
          required
          maxLength={60}
          className="flex-1"
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <Button type="submit" rank="main" disabled={!day || !name.trim() || add.isPending}>
          Add
        </Button>
      </div>
      <FormError error={add.error} />
    </form>
  );
}
