import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { api, data, sentenceOf } from '@/api/client';
import { Notice } from '@/design/Notice';

/** Where customers want somebody, or do not. It is said at the site. */
export function SaidOf({ technicianId }: { technicianId: number }) {
  const said = useQuery({
    queryKey: ['customers', 'saying of', technicianId],
    queryFn: () =>
      data(
        api.GET('/api/v1/sites/saying-of/{technician_id}', {
          params: { path: { technician_id: technicianId } },
        }),
      ),
  });
  if (said.isError) return <Notice tone="bad">{sentenceOf(said.error)}</Notice>;
  if (!said.data) return null;
  return (
    <section aria-label="What customers say" className="max-w-2xl space-y-1">
      <h2 className="font-semibold">What customers say</h2>
      {said.data.length === 0 && (
        <p className="text-sm text-ink-soft">No customer requires, prefers or refuses them.</p>
      )}
      <ul className="divide-y divide-hairline text-sm">
        {said.data.map(({ how, site_id, site, customer_id, customer }) => (
          <li key={`${how} ${site_id}`} className="grid grid-cols-[6rem_14rem_1fr] gap-2 py-1">
            <span className={how === 'refused' ? 'text-bad' : ''}>{how}</span>
            <Link
              to="/customers/$customerId"
              params={{ customerId: String(customer_id) }}
              className="underline"
            >
              {customer}
            </Link>
            <span className="text-ink-soft">{site}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
