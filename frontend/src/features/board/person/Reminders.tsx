import { useState, type FormEvent } from 'react';
import { X } from 'lucide-react';
import { Button } from '@/design/Button';
import { TextField } from '@/design/Field';
import { serverNow } from '@/shared/clock';
import { clockTime, dayName, isoDay, minutesOfDay, moment, parseTime } from '@/shared/time';
import type { Lane } from '../model';
import { useChangeReminder, useForget, useRemind } from './commands';

/** What to think of on the days shown: it takes no time and stops nothing. */
export function Reminders({ lane, day, canPlan }: { lane: Lane; day: string; canPlan: boolean }) {
  const forget = useForget();
  const reminders = lane.days.flatMap((row) => row.reminders);
  if (!canPlan && reminders.length === 0) return null;
  return (
    <section aria-label="Reminders" className="border-t border-hairline pt-3 text-sm">
      <h3 className="text-xs font-semibold text-ink-soft">Reminders</h3>
      <ul className="mt-1 space-y-1">
        {reminders.map((row) => (
          <li key={row.id} className="flex items-start gap-2">
            <Tick row={row} canPlan={canPlan} />
            <span className={`min-w-0 flex-1 ${row.done ? 'text-ink-soft line-through' : ''}`}>
              <time className="figures">
                {lane.days.length > 1 && `${dayName(row.at)} `}
                {clockTime(row.at)}
              </time>{' '}
              {row.text} <span className="text-ink-soft">({row.by})</span>
            </span>
            {canPlan && (
              <Button
                rank="quiet"
                icon={<X size={14} />}
                aria-label={`Remove the reminder: ${row.text}`}
                onClick={() => forget.mutate(row)}
              />
            )}
          </li>
        ))}
      </ul>
      {canPlan && <Ask technicianId={lane.technician_id} day={day} />}
    </section>
  );
}

type Row = Lane['days'][number]['reminders'][number];

/** As it was just ticked, at once, until the row that says so is there: a tick does not flicker. */
function Tick({ row, canPlan }: { row: Row; canPlan: boolean }) {
  const change = useChangeReminder();
  const [asked, setAsked] = useState<Row | null>(null);
  const wished = asked?.version === row.version ? asked : row;
  const tick = () => {
    const next = { ...row, done: !row.done };
    setAsked(next);
    change.mutate(next, { onError: () => setAsked(null) });
  };
  return (
    <input
      type="checkbox"
      className="mt-1"
      aria-label={`Done: ${row.text}`}
      disabled={!canPlan || change.isPending}
      checked={wished.done}
      onChange={tick}
    />
  );
}

function Ask({ technicianId, day }: { technicianId: number; day: string }) {
  const [text, setText] = useState('');
  const [time, setTime] = useState('');
  const remind = useRemind();
  const now = serverNow();
  const minutes = parseTime(time, isoDay(now) === day ? minutesOfDay(now) : undefined);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (minutes === null) return;
    const body = { technician_id: technicianId, at: moment(day, minutes), text };
    remind.mutate(body, {
      onSuccess: () => {
        setText('');
        setTime('');
      },
    });
  };
  return (
    <form
      onSubmit={submit}
      className="mt-2 grid grid-cols-[5rem_1fr_auto] items-end gap-2"
      aria-label="Remind"
    >
      <TextField
        label="At"
        value={time}
        placeholder="830"
        onChange={(event) => setTime(event.target.value)}
        error={time && minutes === null ? 'Like 830' : undefined}
      />
      <TextField
        label="Think of"
        maxLength={200}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <Button type="submit" disabled={!text.trim() || minutes === null || remind.isPending}>
        Remind
      </Button>
    </form>
  );
}
