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
import { DaysOfWeek, WeeksInTurn } from './WeeksInTurn';
import { agreedOf, endOf, isUnfinished, rowsOf, shiftsOf, weeksOn, type Agreed } from './week';

interface Props {
  person: SchemaTechnicianRecordOut;
  canChange: boolean;
}

/** Working hours of a week or of several in turn, from a day on: what was worked before stays as it was. */
export function WeekForm({ person, canChange }: Props) {
  const today = isoDay(serverNow());
  const held = weeksOn(person, today);
  const [weeks, setWeeks] = useState(() => rowsOf(held));
  const [shown, setShown] = useState(0);
  const [agreed, setAgreed] = useState(() => agreedOf(held?.shifts ?? []));
  const [from, setFrom] = useState(today);
  const { week } = useSetTechnician();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const shifts = shiftsOf(weeks, agreed);
    week.mutate(
      { id: person.id, version: person.version, valid_from: from, weeks: weeks.length, shifts },
      {
        onSuccess: () =>
          toast.success(`${person.name} works these hours from ${dayName(moment(from, 720))} on`),
      },
    );
  };
  const wrongDay = week.error instanceof Problem && week.error.field === 'valid_from';
  const unfinished = isUnfinished(weeks);
  return (
    <form onSubmit={submit} aria-label="Working hours" className="max-w-3xl space-y-3">
      <h2 className="font-semibold">Working hours</h2>
      <Ahead person={person} today={today} />
      <fieldset disabled={!canChange} className="space-y-3">
        <WeeksInTurn weeks={weeks} from={from} shown={shown} onShow={setShown} onChange={setWeeks} />
        <DaysOfWeek
          key={shown}
          rows={weeks[shown]!}
          onChange={(rows) => setWeeks(weeks.map((old, at) => (at === shown ? rows : old)))}
        />
        <AgreedFields agreed={agreed} onChange={setAgreed} />
        {canChange && (
          <div className="flex items-end gap-2">
            <DayField label="From this day on" name="valid_from" value={from} onChange={setFrom} />
            <Button type="submit" rank="main" disabled={!from || unfinished || week.isPending}>
              Save working hours
            </Button>
            {unfinished && <span className="pb-1.5 text-sm text-warn">A time is missing on a day.</span>}
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

function AgreedFields({ agreed, onChange }: { agreed: Agreed; onChange: (agreed: Agreed) => void }) {
  const set = (change: Partial<Agreed>) => onChange({ ...agreed, ...change });
  const count = (value: string) => Math.max(0, Math.round(Number(value) || 0));
  return (
    <div className="grid max-w-2xl grid-cols-4 gap-2">
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
