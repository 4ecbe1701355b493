import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { sentenceOf, urlOf } from '@/api/client';
import type { SchemaOfficeDayOut } from '@/api/types';
import { Notice } from '@/design/Notice';
import { onChange } from '@/shared/live';
import { price } from '@/shared/money';
import { clockTime, dayName, length, moment } from '@/shared/time';
import { dayLogsQuery } from './queries';

/** Somebody's last days: hours, breaks, kilometres, fuel, and what nobody has explained. Asked for when it is opened. */
export function DayLogs({ technicianId }: { technicianId: number }) {
  const [open, setOpen] = useState(false);
  return (
    <section aria-label="Day logs" className="border-t border-hairline pt-3">
      <button
        type="button"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        className="text-sm font-semibold underline"
      >
        {open ? 'Hide the day logs' : 'Day logs of the last 14 days'}
      </button>
      {open && <Days technicianId={technicianId} />}
    </section>
  );
}

function Days({ technicianId }: { technicianId: number }) {
  const client = useQueryClient();
  const days = useQuery(dayLogsQuery(technicianId));
  useEffect(
    () =>
      onChange(({ topic }) => {
        if (topic === 'day log' || topic === 'resync')
          void client.invalidateQueries({ queryKey: dayLogsQuery(technicianId).queryKey });
      }),
    [client, technicianId],
  );
  if (days.isPending) return <p role="status">Reading the day logs…</p>;
  if (days.isError) return <Notice tone="bad">{sentenceOf(days.error)}</Notice>;
  if (days.data.length === 0) return <p className="text-sm text-ink-soft">Nothing in the last 14 days.</p>;
  return (
    <ol className="mt-2 space-y-2 text-sm">
      {days.data.map((day) => (
        <li key={day.day}>
          <Day day={day} />
        </li>
      ))}
    </ol>
  );
}

function Day({ day }: { day: SchemaOfficeDayOut }) {
  const { began, ended, summary, odd, explained, fuel } = day;
  const times =
    began === null && ended === null
      ? 'nothing was written down'
      : `${began === null ? '?' : clockTime(began)}–${ended === null ? '' : clockTime(ended)}`;
  const words = [
    summary.hours !== null && `${length(summary.hours)} of work`,
    summary.pauses > 0 && `${length(summary.pauses)} of breaks`,
    `${length(summary.driving)} on the road`,
    summary.kilometres !== null && `${summary.kilometres} km`,
    day.vehicle,
  ];
  return (
    <>
      <p>
        <span className="font-semibold">{dayName(moment(day.day, 720))}</span> {times}
        {(day.began_typed || day.ended_typed) && <span className="text-ink-soft"> (typed)</span>}
      </p>
      <p className="text-ink-soft">{words.filter(Boolean).join(' · ')}</p>
      {fuel.map((row) => (
        <p key={row.id}>
          Fuel {row.millilitres / 1000} l, {price(row.amount, day.currency)}
          {row.here ? (
            <a
              className="ml-1 underline"
              target="_blank"
              rel="noreferrer"
              href={urlOf('/api/v1/day-logs/receipts/{fuel_id}', { fuel_id: row.id })}
            >
              receipt
            </a>
          ) : (
            row.size > 0 && <span className="text-ink-soft"> · receipt still on the phone</span>
          )}
        </p>
      ))}
      {explained.map(({ key, words: said }) => (
        <p key={key} className="text-ink-soft">
          {key}: “{said}”
        </p>
      ))}
      {odd.map(({ key, words: asked }) => (
        <p key={key} className="border-l-4 border-warn pl-2">
          {asked}
        </p>
      ))}
    </>
  );
}
