import { useState, type FormEvent } from 'react';
import { Button } from '@/design/Button';
import { DayField } from '@/design/DayField';
import { TextField } from '@/design/Field';
import { addDays, clockTime, dayName, isoDay, moment, parseTime } from '@/shared/time';
import { shownSpan, type BoardVisit, type Lane } from '../model';
import { useNoteAbsence, useRemoveAbsence } from './commands';

interface Props {
  lane: Lane;
  day: string;
  visits: BoardVisit[];
  canPlan: boolean;
  onLeft: (visits: BoardVisit[]) => void;
}

/** Who is ill or away, and what of theirs is to be done by others. */
export function Absences({ lane, day, visits, canPlan, onLeft }: Props) {
  const remove = useRemoveAbsence();
  const rows = [...new Map(lane.days.flatMap((row) => row.absences).map((row) => [row.id, row])).values()];
  if (!canPlan && rows.length === 0) return null;
  return (
    <section aria-label="Absences" className="border-t border-hairline pt-3 text-sm">
      <h3 className="text-xs font-semibold text-ink-soft">Absent</h3>
      <ul className="mt-1 space-y-1">
        {rows.map((row) => (
          <li key={row.id} className="flex items-center gap-2">
            <span className="min-w-0 flex-1">
              {spanWords(row.start, row.end)}
              {row.reason && `: ${row.reason}`}
            </span>
            {canPlan && (
              <Button disabled={remove.isPending} onClick={() => remove.mutate(row.id)}>
                There after all
              </Button>
            )}
          </li>
        ))}
      </ul>
      {canPlan && <Note key={day} lane={lane} day={day} visits={visits} onLeft={onLeft} />}
    </section>
  );
}

function Note({ lane, day, visits, onLeft }: Omit<Props, 'canPlan'>) {
  const [from, setFrom] = useState('');
  const [last, setLast] = useState(day);
  const [until, setUntil] = useState('');
  const [reason, setReason] = useState('');
  const note = useNoteAbsence();
  const [begins, ends] = [from ? parseTime(from) : 0, until ? parseTime(until) : 24 * 60];
  const start = begins === null ? null : moment(day, begins);
  const end =
    ends === null || !last ? null : ends === 24 * 60 ? moment(addDays(last, 1), 0) : moment(last, ends);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (start === null || end === null) return;
    const body = { technician_id: lane.technician_id, start, end, reason };
    note.mutate(body, {
      onSuccess: () => {
        const left = visits.filter((visit) => {
          const span = shownSpan(visit);
          return span.start < end && span.end > start && visit.movable;
        });
        if (left.length > 0) onLeft(left);
      },
    });
  };
  return (
    <form onSubmit={submit} className="mt-2 space-y-2" aria-label="Note an absence">
      <div className="grid grid-cols-[4.5rem_1fr_4.5rem] gap-2">
        <TextField
          label="From"
          placeholder="all day"
          value={from}
          onChange={(event) => setFrom(event.target.value)}
          error={begins === null ? 'Like 830' : undefined}
        />
        <DayField label="Until (day)" min={day} value={last} onChange={setLast} />
        <TextField
          label="at"
          placeholder="its end"
          value={until}
          onChange={(event) => setUntil(event.target.value)}
          error={ends === null ? 'Like 1630' : undefined}
        />
      </div>
      <TextField
        label="Why"
        placeholder="ill, training, dentist"
        maxLength={120}
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <Button type="submit" disabled={start === null || end === null || end <= start || note.isPending}>
        Note as absent
      </Button>
    </form>
  );
}

function spanWords(start: number, end: number): string {
  const [first, last] = [isoDay(start), isoDay(end - 1)];
  const whole = clockTime(start) === '00:00' && clockTime(end) === '00:00';
  if (whole)
    return first === last ? `${dayName(start)}, all day` : `${dayName(start)} to ${dayName(end - 1)}`;
  const until = first === last ? clockTime(end) : `${dayName(end)} ${clockTime(end)}`;
  return `${dayName(start)} ${clockTime(start)} to ${until}`;
}
