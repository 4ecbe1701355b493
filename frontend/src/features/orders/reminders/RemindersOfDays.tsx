import { Link } from '@tanstack/react-router';
import type { SchemaOfficeReminderOut } from '@/api/types';
import { dayName } from '@/shared/time';
import { useRemindersOfDays, useSettleReminder } from './queries';

/** So many stand in the line; the others unfold. */
const FIRST = 3;

interface Props {
  first: string;
  last: string;
}

/** What is to be thought of on the days that are shown: flags, no visits. Nothing where there is nothing. */
export function RemindersOfDays({ first, last }: Props) {
  const rows = useRemindersOfDays(first, last).data ?? [];
  if (rows.length === 0) return null;
  const several = first !== last;
  return (
    <section
      aria-label="To think of"
      className="flex items-baseline gap-x-4 border-b border-hairline bg-sheet px-3 py-0.5 text-sm"
    >
      {rows.slice(0, FIRST).map((row) => (
        <OneOfDay key={row.id} row={row} withDay={several} />
      ))}
      {rows.length > FIRST && (
        <details className="relative ml-auto whitespace-nowrap">
          <summary className="cursor-pointer">{rows.length - FIRST} more</summary>
          <ul className="absolute right-0 z-20 mt-1 max-w-xl border border-ink bg-sheet p-2">
            {rows.slice(FIRST).map((row) => (
              <li key={row.id}>
                <OneOfDay row={row} withDay={several} />
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}

function OneOfDay({ row, withDay }: { row: SchemaOfficeReminderOut; withDay: boolean }) {
  const settle = useSettleReminder();
  return (
    <span className="flex min-w-0 items-baseline gap-1.5">
      <input
        type="checkbox"
        aria-label={`Done: ${row.text}`}
        checked={row.done}
        disabled={settle.isPending}
        onChange={(event) => settle.mutate({ row, done: event.target.checked })}
      />
      <span aria-hidden className="text-copper">
        ⚑
      </span>
      <Where row={row} />
      <span className="shrink-0 text-ink-soft">
        {[withDay ? dayName(row.at) : '', row.person].filter(Boolean).join(', ')}
      </span>
    </span>
  );
}

/** To what it is about. */
function Where({ row }: { row: SchemaOfficeReminderOut }) {
  if (row.about === 'quote' && row.about_id)
    return (
      <Link
        to="/quotes/$quoteId"
        params={{ quoteId: String(row.about_id) }}
        className="min-w-0 truncate underline"
      >
        {row.text}
      </Link>
    );
  if (row.about === 'order' && row.about_id)
    return (
      <Link
        to="/orders/$orderId"
        params={{ orderId: String(row.about_id) }}
        className="min-w-0 truncate underline"
      >
        {row.text}
      </Link>
    );
  return <span className="min-w-0 truncate">{row.text}</span>;
}
