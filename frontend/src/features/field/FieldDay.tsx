import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { sentenceOf } from '@/api/client';
import type { SchemaFieldDayOut } from '@/api/types';
import { Notice } from '@/design/Notice';
import { StateSign } from '@/design/StateSign';
import { Portrait, useSession } from '@/features/people';
import { clockTime, dayName, length, moment, window_ } from '@/shared/time';
import { DayStrip } from './log/DayStrip';
import { upNext } from './model';
import { ownDayQuery, useLiveField } from './queries';
import { SignOut } from './SignOut';
import { projectRow } from './sync/ahead';
import type { Kept } from './sync/deeds';
import { Unsent } from './Unsent';
import { useKept, usePhone } from './usePhone';

/** A technician's own visits of today, in order. */
export function FieldDay() {
  useLiveField();
  const day = useQuery(ownDayQuery);
  const kept = useKept(usePhone().data);
  const visits = (day.data?.visits ?? []).map((row) => projectRow(row, kept));
  const next = upNext(visits);
  return (
    <main className="mx-auto flex min-h-full max-w-md flex-col bg-sheet">
      <Head day={day.data} kept={kept} />
      <DayStrip kept={kept} />
      {day.isError && (
        <div className="p-3">
          <Notice tone="bad">{sentenceOf(day.error)}</Notice>
        </div>
      )}
      {day.isSuccess && visits.length === 0 && (
        <p className="p-6 text-ink-soft">Nothing has been sent to you for today.</p>
      )}
      <ol className="relative flex-1">
        {visits.map((visit) => (
          <li key={visit.id} className="relative border-b border-hairline">
            <Link
              to="/field/$visitId"
              params={{ visitId: String(visit.id) }}
              className={`grid min-h-20 grid-cols-[58px_1fr] gap-2 py-3 pr-3 ${visit.id === next?.id ? 'bg-copper-wash' : ''}`}
            >
              <span className="flex flex-col items-center">
                <time className="text-base font-semibold">{clockTime(visit.start!)}</time>
                <span className="mt-1 w-0.5 flex-1 bg-ink-soft/40" aria-hidden />
              </span>
              <span className="min-w-0">
                <span className="block truncate text-base font-semibold">{visit.title}</span>
                <span className="block truncate">{visit.site}</span>
                <span className="block truncate text-sm text-ink-soft">{visit.address}</span>
                <span className="mt-1 flex flex-wrap items-center gap-x-3 text-sm">
                  <StateSign state={visit.state} />
                  {visit.promise && <span>promised {window_(visit.promise, day.data?.day)}</span>}
                  {visit.duration_seconds && (
                    <span className="text-ink-soft">{length(visit.duration_seconds)}</span>
                  )}
                </span>
              </span>
            </Link>
          </li>
        ))}
      </ol>
      <div className="sticky bottom-0">
        <Unsent kept={kept} />
      </div>
    </main>
  );
}

const OWN = [
  { to: '/field/log', words: 'Day log' },
  { to: '/field/days-off', words: 'Days off' },
  { to: '/field/this-phone', words: 'On this phone' },
  { to: '/account', words: 'Account' },
] as const;

/** Whose day it is, which day, and the way out. */
function Head({ day, kept }: { day: SchemaFieldDayOut | undefined; kept: Kept[] }) {
  const { account } = useSession();
  return (
    <header className="flex flex-wrap items-center gap-3 border-b border-hairline p-3">
      {day && <Portrait technicianId={day.technician_id} size={40} />}
      <div className="min-w-0 flex-1">
        <h1 className="truncate text-lg leading-tight font-semibold">{account?.name}</h1>
        <p className="text-sm text-ink-soft">{day ? dayName(moment(day.day, 720)) : ''}</p>
      </div>
      <SignOut kept={kept} />
      <nav
        aria-label="Of your own"
        className="-mx-3 -mb-3 flex min-w-[calc(100%+1.5rem)] border-t border-hairline"
      >
        {OWN.map(({ to, words }) => (
          <Link
            key={to}
            to={to}
            className="flex min-h-14 flex-1 items-center justify-center border-l border-hairline px-1 text-center text-sm leading-tight font-semibold first:border-l-0"
          >
            {words}
          </Link>
        ))}
      </nav>
    </header>
  );
}
