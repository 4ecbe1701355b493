import { Link } from '@tanstack/react-router';
import { sentenceOf } from '@/api/client';
import type { SchemaRequestOut } from '@/api/types';
import { Notice } from '@/design/Notice';
import { ShowMore } from '@/design/ShowMore';
import { serverNow } from '@/shared/clock';
import { rowsOf } from '@/shared/pages';
import { clockTime, isoDay, stamp } from '@/shared/time';
import { useRequests } from './queries';

/** Requests nobody has made into an order yet, the most pressing first. */
export function WaitingRequests() {
  const requests = useRequests();
  const rows = rowsOf(requests.data);
  return (
    <section aria-label="Waiting requests" className="min-h-0 flex-1 overflow-y-auto">
      <h2 className="sticky top-0 flex justify-between bg-wash px-3 py-1.5 text-sm font-semibold">
        <span>
          Waiting for an order · {rows.length}
          {requests.hasNextPage && '+'}
        </span>
        <Link to="/requests" className="font-normal underline">
          all requests
        </Link>
      </h2>
      {requests.isError && <Notice tone="bad">{sentenceOf(requests.error)}</Notice>}
      {requests.isSuccess && rows.length === 0 && (
        <p className="p-3 text-sm text-ink-soft">No request is waiting.</p>
      )}
      <ul className="divide-y divide-hairline">
        {rows.map((row) => (
          <RequestRow key={row.id} row={row} />
        ))}
      </ul>
      <div className="p-3">
        <ShowMore pages={requests} words="Show more" />
      </div>
    </section>
  );
}

/** The time of day is enough for what came today. */
const since = (at: number) => (isoDay(at) === isoDay(serverNow()) ? clockTime(at) : stamp(at).split(',')[0]);

function RequestRow({ row }: { row: SchemaRequestOut }) {
  return (
    <li>
      <Link to="/intake" search={{ request: row.id }} className="block px-3 py-1.5 text-sm hover:bg-wash">
        <span className="flex justify-between gap-2 text-xs whitespace-nowrap text-ink-soft">
          <span className="min-w-0 truncate">
            <span className="figures">{row.number}</span> · {row.channel} ·{' '}
            <abbr title={`priority ${row.priority}`} className="no-underline">
              P{row.priority}
            </abbr>
          </span>
          <time>{since(row.taken_at)}</time>
        </span>
        <span className="block font-semibold">
          {row.customer?.name ?? (row.from_name || 'unknown sender')}
          {row.site ? ` · ${row.site.name}` : ''}
        </span>
        <span className="line-clamp-2 block">{row.what_is_wrong}</span>
      </Link>
    </li>
  );
}
