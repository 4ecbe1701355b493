import { Link } from '@tanstack/react-router';
import type { SchemaOfficeReminderOut } from '@/api/types';
import { dayName } from '@/shared/time';
import { useRemindersOfDays, useSettleReminder } from './queries';

interface Props {
  first: string;
  last: string;
}

/** What is to be thought of on the days that are shown: flags, no visits. Their count unfolds; nothing moves for it. */
export function RemindersOfDays({ first, last }: Props) {
  const rows = useRemindersOfDays(first, last).data ?? [];
  if (rows.length === 0) return null;
  const several = first !== last;
  return (
    <details className="relative text-sm">
      <summary className="cursor-pointer list-none px-1 whitespace-nowrap" title="To think of">
        <span aria-hidden className="text-copper">
          ⚑
        </span>{' '}
        <b className="figures">{rows.length}</b> <span className="sr-only">to think of</span>
      </summary>
      <ul
        aria-label="To think of"
        className="absolute left-0 z-30 mt-1 w-max max-w-xl space-y-1 border border-ink bg-sheet p-2"
      >
        {rows.map((row) => (
          <li key={row.id}>
            <OneOfDay row={row} withDay={several} />
          </li>
        ))}
      </ul>
    </details>
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
