import { useState } from 'react';
import type { SchemaOfficeReminderOut, SchemaQuoteOut } from '@/api/types';
import { Button } from '@/design/Button';
import { DayField } from '@/design/DayField';
import { TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { serverNow } from '@/shared/clock';
import { dayName, isoDay, moment } from '@/shared/time';
import { useRemind, useSettleReminder } from '../queries';

const NINE = 9 * 60;

/** What to think of: call back, file papers, thank the customer. */
export function Reminders({ quote }: { quote: SchemaQuoteOut }) {
  return (
    <section aria-label="Reminders" className="space-y-1 text-sm">
      <h3 className="text-xs font-semibold text-ink-soft">To think of</h3>
      <ul>
        {quote.reminders.map((row) => (
          <li key={row.id}>
            <OneReminder row={row} />
          </li>
        ))}
      </ul>
      <NewReminder quoteId={quote.id} />
    </section>
  );
}

/** A flag before it: it is no visit. */
export function OneReminder({ row }: { row: SchemaOfficeReminderOut }) {
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
          {dayName(row.at)}, {row.person}
        </span>
      </span>
    </label>
  );
}

function NewReminder({ quoteId }: { quoteId: number }) {
  const [text, setText] = useState('');
  const [day, setDay] = useState(() => isoDay(serverNow()));
  const remind = useRemind(quoteId);
  return (
    <form
      aria-label="New reminder"
      className="grid grid-cols-[1fr_7rem_auto] items-end gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        remind.mutate({ text, at: moment(day, NINE) }, { onSuccess: () => setText('') });
      }}
    >
      <TextField
        label="Remind me"
        name="text"
        placeholder="call back"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <DayField label="On" name="reminder day" value={day} onChange={setDay} />
      <Button type="submit" disabled={!text.trim() || !day || remind.isPending}>
        Add
      </Button>
      <FormError error={remind.error} />
    </form>
  );
}
