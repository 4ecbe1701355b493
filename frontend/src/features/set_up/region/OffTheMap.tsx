import { Link } from '@tanstack/react-router';
import { sentenceOf } from '@/api/client';
import { Notice } from '@/design/Notice';
import { useOffTheMap } from './queries';

/** Sites whose point wants to be tidied. */
export function OffTheMap() {
  const lost = useOffTheMap();
  if (lost.isError) return <Notice tone="bad">{sentenceOf(lost.error)}</Notice>;
  if (!lost.data) return null;
  const { count, sites } = lost.data;
  return (
    <section aria-label="Sites off the map" className="space-y-1">
      <h2 className="font-semibold">Sites off the map</h2>
      {count === 0 ? (
        <p className="text-ink-soft">Every site lies by a road of the region.</p>
      ) : (
        <p className="text-ink-soft">
          {count === 1 ? 'One site lies' : `${count.toLocaleString('en-GB')} sites lie`} more than a kilometre
          from every road: change the point of each at its customer.
          {sites.length < count && ` The first ${sites.length} are shown.`}
        </p>
      )}
      <ul className={count > 0 ? 'divide-y divide-hairline border-y border-hairline' : ''}>
        {sites.map((site) => (
          <li key={site.id} className="flex items-baseline gap-3 py-1">
            <Link
              to="/customers/$customerId"
              params={{ customerId: String(site.customer_id) }}
              className="w-56 font-semibold underline"
            >
              {site.customer}
            </Link>
            <span className="flex-1">
              {site.name ? `${site.name}, ` : ''}
              {site.address}
            </span>
            <span className="text-ink-soft">{site.kilometres.toLocaleString('en-GB')} km off</span>
            {site.suggestion && <span>perhaps {site.suggestion}</span>}
          </li>
        ))}
      </ul>
    </section>
  );
}
