import { Link } from '@tanstack/react-router';
import { clockTime, dayName, window_ } from '@/shared/time';
import { useOpenThere } from './queries';

interface Props {
  siteId: number;
  assetId: number | null;
  requestId: number | null;
}

/** What is open there already, so that it is not taken a second time. On the same equipment it is said loudest. */
export function OpenThere({ siteId, assetId, requestId }: Props) {
  const open = useOpenThere(siteId);
  if (!open.data) return null;
  const requests = open.data.requests.filter((row) => row.id !== requestId);
  const { visits } = open.data;
  if (requests.length + visits.length === 0) return null;
  const same = (asset: number | null | undefined) => assetId !== null && asset === assetId;
  const loud = requests.some((row) => same(row.asset?.id)) || visits.some((row) => same(row.asset_id));
  return (
    <section
      aria-label="Open there already"
      className={`border-l-4 px-2 py-1 text-sm ${loud ? 'border-bad bg-bad-wash' : 'border-warn bg-warn-wash'}`}
    >
      <h3 className="text-xs font-semibold">
        {loud ? 'Open on this equipment already' : 'Open at this site already'} ·{' '}
        {requests.length + visits.length}
      </h3>
      <ul>
        {requests.map((row) => (
          <li key={`r${row.id}`} className={same(row.asset?.id) ? 'font-semibold' : ''}>
            <Link to="/requests" search={{ id: row.id }} className="figures underline">
              {row.number}
            </Link>{' '}
            waits: <span className="line-clamp-1 inline">{row.what_is_wrong}</span>
          </li>
        ))}
        {visits.map((row) => (
          <li key={`v${row.visit_id}`} className={same(row.asset_id) ? 'font-semibold' : ''}>
            <Link
              to="/orders/$orderId"
              params={{ orderId: String(row.order_id) }}
              className="figures underline"
            >
              {row.label}
            </Link>{' '}
            {row.title}
            <span className="text-ink-soft">
              {' · '}
              {row.start !== null
                ? `${row.technician}, ${dayName(row.start)} ${clockTime(row.start)}`
                : 'nobody assigned'}
              {row.promise && ` · promised ${window_(row.promise)}`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
