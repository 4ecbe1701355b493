import { useState } from 'react';
import type { SchemaOfficeReminderOut } from '@/api/types';
import { Button } from '@/design/Button';
import { DayField } from '@/design/DayField';
import { SelectField, TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { serverNow } from '@/shared/clock';
import { dayOfAnyYear, isoDay, moment } from '@/shared/time';
import { useOfficePeople, useRemind, useRemindersOfOrder, useSettleReminder, type About } from './queries';

const NINE = 9 * 60;

/** What to think of about an order. */
export function OrderReminders({ orderId }: { orderId: number }) {
  const rows = useRemindersOfOrder(orderId).data ?? [];
  return <OfficeReminders about={{ kind: 'order', id: orderId }} rows={rows} />;
}

interface Props {
  about: About;
  rows: SchemaOfficeReminderOut[];
}

/** What to think of: call back, file papers, thank the customer. */
export const OfficeReminders = ({ about, rows }: Props) => (
  <section aria-label="Reminders" className="space-y-1 text-sm">
    <h3 className="text-xs font-semibold text-ink-soft">To think of</h3>
    <ul>
      {rows.map((row) => (
        <li key={row.id}>
          <OneReminder row={row} />
        </li>
      ))}
    </ul>
    <NewReminder about={about} />
  </section>
);

/** A flag before it: it is no visit. */
function OneReminder({ row }: { row: SchemaOfficeReminderOut }) {
  const settle = useSettleReminder();
  return (
    <label className="flex items-baseline gap-1.5">
      <input
        type="checkbox"
        checked={row.done}
        disabled={settle.isPending}
        onChange={(event) => settle.mutate({ row, done: event.target.checked })}
      />
      <span className={row.done ? 'text-ink-soft line-through' : ''}>
        <span aria-hidden>⚑</span> {row.text}{' '}
        <span className="text-ink-soft">
          {dayOfAnyYear(row.at)}, {row.person}
        </span>
      </span>
    </label>
  );
}

function NewReminder({ about }: { about: About }) {
  const [text, setText] = useState('');
  const [day, setDay] = useState(() => isoDay(serverNow()));
  const [who, setWho] = useState<number | null>(null);
  const people = useOfficePeople().data ?? [];
  const remind = useRemind(about);
  return (
    <form
      aria-label="New reminder"
      className="grid grid-cols-[1fr_7rem] items-end gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        remind.mutate({ text, at: moment(day, NINE), account_id: who }, { onSuccess: () => setText('') });
      }}
    >
      <TextField
        label="What"
        name="text"
        placeholder="call back"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <DayField label="On" name="reminder day" value={day} onChange={setDay} />
      <SelectField
        label="Who"
        value={who ?? ''}
        onChange={(event) => setWho(Number(event.target.value) || null)}
      >
        <option value="">I myself</option>
        {people.map((row) => (
          <option key={row.id} value={row.id}>
            {row.name}
          </option>
        ))}
      </SelectField>
      <Button type="submit" disabled={!text.trim() || !day || remind.isPending}>
        Remind
      </Button>
      <FormError error={remind.error} />
    </form>
  );
}
