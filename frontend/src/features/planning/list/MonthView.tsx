import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { api, data } from '@/api/client';
import type { SchemaDayLoadOut } from '@/api/types';
import { isoDay, length, moment } from '@/shared/time';
import { serverNow } from '@/shared/clock';
import { Failed } from '../board/Slips';

const DAYS = 35;
/** From here on a day counts as full: driving is not in the figures yet. */
const FULL = 0.85;

/** Five weeks ahead: how full each day of everybody is. A day opens on the board. */
export function MonthView({ day, onDay }: { day: string; onDay: (day: string) => void }) {
  const loads = useQuery({
    queryKey: ['planning', 'load', day],
    queryFn: () => data(api.GET('/api/planning/load', { params: { query: { day, days: DAYS } } })),
  });
  const days = useMemo(() => loads.data?.[0]?.days.map((row) => row.date) ?? [], [loads.data]);
  const totals = useMemo(
    () =>
      days.map((date, index) => {
        const rows = (loads.data ?? []).map((lane) => lane.days[index]!);
        const sum = (name: 'shift' | 'work' | 'visits') => rows.reduce((all, row) => all + row[name], 0);
        return { date, shift: sum('shift'), work: sum('work'), visits: sum('visits') };
      }),
    [loads.data, days],
  );
  if (loads.isError) return <Failed error={loads.error} onRetry={() => void loads.refetch()} />;
  if (!loads.data) return <p className="p-6 text-ink-soft">Counting the weeks…</p>;
  const today = isoDay(serverNow());
  return (
    <div className="h-full overflow-auto">
      <table className="border-collapse text-xs" aria-label="How full the weeks are">
        <caption className="px-2 py-1 text-left text-ink-soft">
          Share of the shifts taken by work, driving not counted. A day opens on the board.
        </caption>
        <thead className="sticky top-0 z-10 bg-paper">
          <tr>
            <th className="sticky left-0 bg-paper px-2 text-left">Technician</th>
            {days.map((date) => (
              <th
                key={date}
                className={`px-0.5 font-normal ${startsWeek(date) ? 'border-l-2 border-hairline' : ''}`}
              >
                <button
                  type="button"
                  className={`w-8 hover:underline ${date === today ? 'font-semibold text-copper' : ''}`}
                  onClick={() => onDay(date)}
                >
                  <span className="sr-only">Open {date}: </span>
                  <span className="block text-ink-soft">{weekday(date)}</span>
                  <span className="figures">{date.slice(8)}</span>
                </button>
              </th>
            ))}
          </tr>
          <tr className="border-b border-hairline">
            <th className="sticky left-0 bg-paper px-2 text-left">Everybody</th>
            {totals.map((row) => (
              <Cell key={row.date} row={row} />
            ))}
          </tr>
        </thead>
        <tbody>
          {loads.data.map((lane) => (
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

function Cell({ row }: { row: SchemaDayLoadOut }) {
  const edge = startsWeek(row.date) ? 'border-l-2 border-hairline' : '';
  if (!row.shift && !row.work)
    return (
      <td className={`h-7 text-center text-ink-soft ${edge}`} title={`${row.date}: nobody works`}>
        ·
      </td>
    );
  const share = row.shift ? row.work / row.shift : 1;
  return (
    <td
      className={`relative h-7 text-center ${edge}`}
      title={`${row.date}: ${row.visits} visits, ${length(row.work)} of work in ${length(row.shift)}`}
    >
      <span
        aria-hidden
        className={`absolute inset-x-0.5 bottom-0 ${share >= FULL ? 'bg-copper/50' : 'bg-ink-soft/25'}`}
        style={{ height: `${Math.min(1, share) * 100}%` }}
      />
      <span className={`figures relative ${share >= FULL ? 'font-semibold' : ''}`}>
        {Math.round(share * 100)}
      </span>
    </td>
  );
}

const weekday = (date: string) =>
  ['Su', 'Mo', 'Tu', 'We', 'Th', 'Fr', 'Sa'][new Date(moment(date, 720) * 1000).getUTCDay()];
const startsWeek = (date: string) => weekday(date) === 'Mo';
