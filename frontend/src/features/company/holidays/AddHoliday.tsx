import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { api, data } from '@/api/client';
import { Button } from '@/design/Button';
import { DayField } from '@/design/DayField';
import { TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { holidaysKey } from './key';

/** One day off of the company's own. */
export function AddHoliday() {
  const client = useQueryClient();
  const [day, setDay] = useState('');
  const [name, setName] = useState('');
  const add = useMutation({
    mutationFn: () => data(api.POST('/api/v1/company/holidays', { body: { day, name } })),
    onSuccess: () => {
      setDay('');
      setName('');
    },
    onSettled: () => client.invalidateQueries({ queryKey: holidaysKey }),
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
