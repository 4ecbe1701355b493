import { useQueries, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { SchemaDayWorkloadOut } from '@/api/types';
import { firstWeekday, addDays, isoDay, length, moment } from '@/shared/time';
import { serverNow } from '@/shared/clock';
import { inChunks } from '../lanes/chunks';
import { NoTechnicians } from '../lanes/NoTechnicians';
import { Failed } from '../lanes/Slips';
import { headsQuery, loadQuery } from '../queries';
import { together, totalsOf } from './loads';

const DAYS = 35;
/** From here on there is hardly room for another visit. */
const FULL = 0.9;

/** Five weeks ahead: how full each day of everybody is. A day opens on the board. */
export function MonthView({ day, onDay }: { day: string; onDay: (day: string) => void }) {
  const heads = useQuery(headsQuery);
  const people = useMemo(() => heads.data ?? [], [heads.data]);
  const parts = useQueries({
    queries: inChunks(people, DAYS).map((ids) => loadQuery(day, DAYS, ids)),
    combine: together,
  });
  const days = useMemo(() => Array.from({ length: DAYS }, (_, index) => addDays(day, index)), [day]);
  const totals = useMemo(() => (parts.complete ? totalsOf(days, parts.lanes) : null), [days, parts]);
  const error = heads.error ?? parts.error;
  if (error)
    return (
      <Failed
        error={error}
        onRetry={() => {
          void heads.refetch();
          parts.retry();
        }}
      />
    );
  if (heads.data?.length === 0) return <NoTechnicians />;
  if (parts.lanes.length === 0) return <p className="p-6 text-ink-soft">Counting the weeks…</p>;
  const today = isoDay(serverNow());
  return (
    <div className="h-full overflow-auto">
      <table className="border-collapse text-xs" aria-label="How full the weeks are">
        <caption className="px-2 py-1 text-left text-ink-soft">
          Per cent of the shifts taken by work and driving; + with overtime. A day opens on the board.
        </caption>
        <thead className="sticky top-0 z-10 bg-paper">
          <tr>
            <th className="sticky left-0 bg-paper px-2 text-left">Technician</th>
            {days.map((date) => (
              <DayHead key={date} date={date} today={date === today} onDay={onDay} />
            ))}
          </tr>
          <tr className="border-b border-hairline">
            <th className="sticky left-0 bg-paper px-2 text-left">Everybody</th>
            <Totals rows={totals} />
          </tr>
        </thead>
        <tbody>
          {parts.lanes.map((lane) => (
            <tr key={lane.technician_id} className="border-b border-hairline">
              <th className="sticky left-0 bg-paper px-2 text-left font-normal whitespace-nowrap">
                {lane.name}
              </th>
              {lane.days.map((row) => (
                <Cell key={row.date} row={row} />
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const DayHead = ({ date, today, onDay }: { date: string; today: boolean; onDay: (day: string) => void }) => (
  <th className={`px-0.5 font-normal ${startsWeek(date) ? 'border-l-2 border-hairline' : ''}`}>
    <button
      type="button"
      className={`w-8 hover:underline ${today ? 'font-semibold text-copper' : ''}`}
      onClick={() => onDay(date)}
    >
      <span className="sr-only">Open {date}: </span>
      <span className="block text-ink-soft">{weekday(date)}</span>
      <span className="figures">{date.slice(8)}</span>
    </button>
  </th>
);

const Totals = ({ rows }: { rows: SchemaDayWorkloadOut[] | null }) =>
  rows?.map((row) => <Cell key={row.date} row={row} />) ?? (
    <td colSpan={DAYS} className="h-7 text-left text-ink-soft">
      counting…
    </td>
  );

function Cell({ row }: { row: SchemaDayWorkloadOut }) {
  const edge = startsWeek(row.date) ? 'border-l-2 border-hairline' : '';
  if (!row.working && !row.work)
    return (
      <td className={`h-7 text-center text-ink-soft ${edge}`} title={`${row.date}: nobody works`}>
        ·
      </td>
    );
  const { share } = row;
  return (
    <td className={`relative h-7 text-center ${edge}`} title={wordsOf(row)}>
      <span
        aria-hidden
        className={`absolute inset-x-0.5 bottom-0 ${share >= FULL ? 'bg-copper/50' : 'bg-ink-soft/25'}`}
        style={{ height: `${Math.min(1, share) * 100}%` }}
      />
      <span className={`figures relative ${share >= FULL ? 'font-semibold' : ''}`}>
        {Math.round(share * 100)}
        {row.overtime > 0 && <span aria-hidden>+</span>}
      </span>
    </td>
  );
}

function wordsOf(row: SchemaDayWorkloadOut): string {
  const visits = `${row.visits} ${row.visits === 1 ? 'visit' : 'visits'}`;
  const taken = `${length(row.work)} of work and ${length(row.drive)} of driving in ${length(row.working)}`;
  return `${row.date}: ${visits}, ${taken}${row.overtime ? `, ${length(row.overtime)} of overtime` : ''}`;
}

const weekday = (date: string) =>
  ['Su', 'Mo', 'Tu', 'We', 'Th', 'Fr', 'Sa'][new Date(moment(date, 720) * 1000).getUTCDay()];
const startsWeek = (date: string) =>
  (new Date(moment(date, 720) * 1000).getUTCDay() + 6) % 7 === firstWeekday();
