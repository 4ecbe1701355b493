import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import { Problem } from '@/api/client';
import type { SchemaTechnicianRecordOut } from '@/api/types';
import { Button } from '@/design/Button';
import { DayField } from '@/design/DayField';
import { TextField } from '@/design/Field';
import { FormError } from '@/design/FormError';
import { TimeField } from '@/design/TimeField';
import { serverNow } from '@/shared/clock';
import { dayName, isoDay, moment } from '@/shared/time';
import { useSetTechnician } from '../queries';
import { agreedOf, endOf, rowsOf, shiftsOf, WEEKDAYS, weekOn, type Agreed, type DayRow } from './week';

interface Props {
  person: SchemaTechnicianRecordOut;
  canChange: boolean;
}

/** Working hours of a week, from a day on: what was worked before stays as it was. */
export function WeekForm({ person, canChange }: Props) {
  const today = isoDay(serverNow());
  const now = weekOn(person, today);
  const [rows, setRows] = useState(() => rowsOf(now));
  const [agreed, setAgreed] = useState(() => agreedOf(now));
  const [from, setFrom] = useState(today);
  const { week } = useSetTechnician();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    week.mutate(
      { id: person.id, version: person.version, valid_from: from, shifts: shiftsOf(rows, agreed) },
      {
        onSuccess: () =>
          toast.success(`${person.name} works these hours from ${dayName(moment(from, 720))} on`),
      },
    );
  };
  const wrongDay = week.error instanceof Problem && week.error.field === 'valid_from';
  return (
    <form onSubmit={submit} aria-label="Working hours" className="max-w-2xl space-y-3">
      <h2 className="font-semibold">Working hours</h2>
      <Ahead person={person} today={today} />
      <fieldset disabled={!canChange} className="space-y-3">
        <Days rows={rows} onChange={setRows} />
        <AgreedFields agreed={agreed} onChange={setAgreed} />
        {canChange && (
          <div className="flex items-end gap-2">
            <DayField label="From this day on" name="valid_from" value={from} onChange={setFrom} />
            <Button type="submit" rank="main" disabled={!from || week.isPending}>
              Save working hours
            </Button>
          </div>
        )}
        <FormError error={week.error} />
        {wrongDay && <p className="text-sm text-ink-soft">Days that are over keep the hours they had.</p>}
      </fieldset>
    </form>
  );
}

/** Hours that begin later than today, and the day from which there are none. */
function Ahead({ person, today }: { person: SchemaTechnicianRecordOut; today: string }) {
  const ahead = person.weeks.filter((week) => week.valid_from > today);
  const end = endOf(person);
  return (
    <>
      {ahead.length > 0 && (
        <p className="text-sm text-ink-soft">
          Other hours begin on {ahead.map((week) => dayName(moment(week.valid_from, 720))).join(', ')}. Saving
          hours from an earlier day replaces them.
        </p>
      )}
      {person.weeks.length === 0 && <p className="text-sm text-bad">No working hours: nothing is planned.</p>}
      {end && (
        <p className="text-sm text-warn">From {dayName(moment(end, 720))} on there are no working hours.</p>
      )}
    </>
  );
}

function Days({ rows, onChange }: { rows: DayRow[]; onChange: (rows: DayRow[]) => void }) {
  const set = (weekday: number, change: Partial<DayRow>) =>
    onChange(rows.map((row, at) => (at === weekday ? { ...row, ...change } : row)));
  const copy = () => onChange(rows.map((row, at) => (at < 5 ? { ...rows[0]!, more: row.more } : row)));
  return (
    <div className="space-y-1">
      {rows.map((row, weekday) => (
        <div
          key={WEEKDAYS[weekday]}
          role="group"
          aria-label={WEEKDAYS[weekday]}
          className="grid grid-cols-[3rem_7rem_7rem_1fr] items-end gap-2"
        >
          <b className="pb-1.5 text-sm">{WEEKDAYS[weekday]}</b>
          <TimeField
            label="From"
            quiet={weekday > 0}
            value={row.start}
            onChange={(start) => set(weekday, { start })}
          />
          <TimeField
            label="To"
            quiet={weekday > 0}
            value={row.end}
            onChange={(end) => set(weekday, { end })}
          />
          <span className="pb-1.5 text-sm text-ink-soft">
            {weekday === 0 && row.start !== null && row.end !== null ? (
              <button type="button" className="underline" onClick={copy}>
                the same until Friday
              </button>
            ) : (
              wordsOf(row)
            )}
          </span>
        </div>
      ))}
    </div>
  );
}

const wordsOf = ({ start, end }: DayRow) =>
  start === null || end === null ? 'no shift' : end <= start ? 'until the next day' : '';

function AgreedFields({ agreed, onChange }: { agreed: Agreed; onChange: (agreed: Agreed) => void }) {
  const set = (change: Partial<Agreed>) => onChange({ ...agreed, ...change });
  const count = (value: string) => Math.max(0, Math.round(Number(value) || 0));
  return (
    <div className="grid grid-cols-4 gap-2">
      <TextField
        label="Break, minutes"
        type="number"
        min={0}
        max={600}
        value={agreed.rest_minutes}
        onChange={(event) => set({ rest_minutes: count(event.target.value) })}
      />
      <TimeField
        label="not before"
        value={agreed.rest_earliest}
        onChange={(rest_earliest) => set({ rest_earliest })}
      />
      <TimeField
        label="over by"
        value={agreed.rest_latest}
        onChange={(rest_latest) => set({ rest_latest })}
      />
      <TextField
        label="Overtime agreed, minutes"
        type="number"
        min={0}
        max={720}
        value={agreed.overtime_minutes}
        onChange={(event) => set({ overtime_minutes: count(event.target.value) })}
      />
    </div>
  );
}
