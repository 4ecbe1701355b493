import { Link } from '@tanstack/react-router';
import { useQuery } from '@tanstack/react-query';
import { api, data } from '@/api/client';
import { stamp } from '@/shared/time';
import { reportsKey } from './queries';

/** Where: a visit, or a piece of equipment, or a site. */
interface Where {
  visit_id?: number;
  asset_id?: number;
  site_id?: number;
}

const useLately = (where: Where) =>
  useQuery({
    queryKey: [...reportsKey, 'lately', where],
    queryFn: () => data(api.GET('/api/v1/reports/lately', { params: { query: where } })),
  });

/** What happened there lately, in at most five lines; each leads to the order it comes from. */
export function Lately(where: Where) {
  const lines = useLately(where).data;
  if (!lines?.length) return null;
  return (
    <section aria-label="What happened here lately" className="text-sm">
      <h3 className="text-xs font-semibold text-ink-soft">What happened here lately</h3>
      <ul>
        {lines.map((line) => (
          <li key={line.words} className={line.pressing ? 'border-l-4 border-warn bg-warn-wash px-2' : ''}>
            <Link
              to="/orders/$orderId"
              params={{ orderId: String(line.order_id) }}
              className="block py-0.5 hover:underline"
            >
              {line.words} <time className="text-ink-soft">{stamp(line.at)}</time>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
