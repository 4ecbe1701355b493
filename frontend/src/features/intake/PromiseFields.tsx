import type { UseFormRegister } from 'react-hook-form';
import type { SchemaCustomerDetailOut, SchemaSiteOut } from '@/api/types';
import { DayBox } from '@/design/DayField';
import { useSetting } from '@/features/company';
import { useSession } from '@/features/people';
import { fillIn } from '@/shared/templates';
import { clockTime, dayName } from '@/shared/time';
import type { Window } from '@/features/appointments';
import type { NeedForm, Standby } from './model';

const BOX = 'w-full rounded-sm border border-hairline bg-sheet px-2 py-1.5';

/** A time that the caller names and no offer has: checked like an offer before it is promised. */
export function OtherTime({
  register,
  day,
  onDay,
  error,
}: {
  register: UseFormRegister<NeedForm>;
  day: string;
  onDay: (day: string) => void;
  error: string | undefined;
}) {
  return (
    <details className="text-sm">
      <summary className="cursor-pointer py-0.5">Another time, typed</summary>
      <div className="grid grid-cols-3 gap-2 pt-1">
        <DayBox name="Promised day" value={day} onChange={onDay} />
        <input
          aria-label="Promised from"
          className={BOX}
          placeholder="from, like 830"
          {...register('promiseFrom')}
        />
        <input
          aria-label="Promised until"
          className={BOX}
          placeholder="until, or +120"
          {...register('promiseTo')}
        />
      </div>
      {error && (
        <p role="alert" className="mt-0.5 text-xs text-bad">
          {error}
        </p>
      )}
    </details>
  );
}

/** The customer would come forward, and under which conditions. */
export function StandbyFields({
  standby,
  onChange,
}: {
  standby: Standby;
  onChange: (standby: Standby) => void;
}) {
  return (
    <div className="text-sm">
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          checked={standby.on}
          onChange={(event) => onChange({ ...standby, on: event.target.checked })}
        />
        Would come earlier if something becomes free (standby)
      </label>
      {standby.on && (
        <div className="mt-1 grid grid-cols-3 gap-2">
          <select
            aria-label="Standby: which half of the day"
            className={BOX}
            value={standby.part}
            onChange={(event) => onChange({ ...standby, part: event.target.value as Standby['part'] })}
          >
            <option value="">any hour</option>
            <option value="morning">mornings</option>
            <option value="afternoon">afternoons</option>
          </select>
          <DayBox
            name="Standby: not before"
            value={standby.notBefore}
            onChange={(notBefore) => onChange({ ...standby, notBefore })}
          />
          <input
            aria-label="Standby: call so long before"
            className={BOX}
            placeholder="call 60 min before"
            value={standby.notice}
            onChange={(event) => onChange({ ...standby, notice: event.target.value })}
          />
        </div>
      )}
    </div>
  );
}

interface TellProps {
  tell: boolean;
  onTell: (tell: boolean) => void;
  window: Window | null;
  site: SchemaSiteOut | null;
  customer: SchemaCustomerDetailOut | undefined;
  job: string;
}

/** What the customer will be told, before it is sent. */
export function TellCustomer({ tell, onTell, window, site, customer, job }: TellProps) {
  const template = useSetting('message_promised', '');
  const session = useSession();
  if (!window || !site) return null;
  const text = fillIn(template, {
    company: session.company?.name ?? '',
    customer: customer?.name ?? '',
    site: site.name,
    job,
    window: `on ${dayName(window.start)} between ${clockTime(window.start)} and ${clockTime(window.end)}`,
    order: '(number)',
  });
  return (
    <label className="flex items-start gap-1.5 text-sm">
      <input
        type="checkbox"
        className="mt-1"
        checked={tell}
        onChange={(event) => onTell(event.target.checked)}
      />
      <span>
        Tell them in writing: <q className="text-ink-soft">{text}</q>
      </span>
    </label>
  );
}
